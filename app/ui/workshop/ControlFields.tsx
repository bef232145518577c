import { describeLimits, formatPosition, positionsOf, type Axis } from '#core/controls/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { Field } from '../base/Field.tsx';
import { capitalise } from '#core/units/index.ts';

/** The field of one control: typed where it is a number, chosen where it is a dial, a list or only a few steps. */
export function ControlField({
  axis,
  answer,
  initial,
}: {
  axis: Axis;
  answer?: FormAnswer | undefined;
  initial: number | undefined;
}) {
  const name = axis.role === 'strength' ? 'strength' : `c.${axis.key}`;
  const shown = initial === undefined ? '' : formatPosition(axis, initial);
  const places = positionsOf(axis);
  if (axis.kind === 'number' && places.length > 24)
    return (
      <Field
        name={name}
        label={capitalise(axis.word)}
        answer={answer}
        initial={shown}
        help={describeLimits(axis)}
        autoComplete="off"
      />
    );
  return (
    <Field
      name={name}
      label={capitalise(axis.word)}
      answer={answer}
      initial={shown}
      select
      slotProps={{ select: { native: true } }}
    >
      {places.map((p) => (
        <option key={p} value={formatPosition(axis, p)}>
          {axis.kind === 'number' && axis.words?.[String(p)]
            ? `${formatPosition(axis, p)}, ${axis.words[String(p)]}`
            : formatPosition(axis, p)}
        </option>
      ))}
    </Field>
  );
}

import type { Piece } from '#work/vinyls/stock.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { Choices } from '../base/Choices.tsx';
import { Field, SelectField } from '../base/Field.tsx';
import { typedLength } from '../base/format.ts';
import { useLengthUnit } from '../people/usePerson.ts';

/** What is said of a roll, a sheet or an offcut. @param piece one that is there already */
export function PieceFields({
  answer,
  colours,
  colour,
  piece,
}: {
  answer: FormAnswer | undefined;
  colours: readonly { id: string; name: string }[];
  colour: string | undefined;
  piece?: Piece;
}) {
  const t = words.stock;
  const unit = useLengthUnit();
  const usual = unit === 'mm' ? '305' : '12';
  return (
    <>
      <Choices
        name="kind"
        legend={t.kind}
        answer={answer}
        initial={piece?.kind ?? 'roll'}
        options={Object.entries(t.kinds).map(([key, name]) => [key, name, ''] as const)}
      />
      <div className="pair">
        <SelectField
          name="colour"
          label={t.colour}
          answer={answer}
          initial={colour ?? ''}
          options={colours.map((c) => [c.id, c.name] as const)}
        />
        <Field name="batch" label={t.batch} answer={answer} initial={piece?.batch ?? ''} autoComplete="off" />
        <Field
          name="width"
          label={t.width(unit)}
          answer={answer}
          initial={piece ? typedLength(piece.widthUm, unit) : usual}
          autoComplete="off"
        />
        <Field
          name="length"
          label={t.length(unit)}
          answer={answer}
          initial={piece ? typedLength(piece.lengthUm, unit) : ''}
          autoComplete="off"
        />
        <Field
          name="price"
          label={t.price}
          answer={answer}
          initial={piece?.price ? (piece.price.minor / 100).toFixed(2) : ''}
          inputMode="decimal"
          autoComplete="off"
        />
        <Field
          name="currency"
          label={t.currency}
          answer={answer}
          initial={piece?.price?.currency ?? ''}
          autoComplete="off"
        />
        <Field
          name="pieces"
          label={t.pieces}
          answer={answer}
          initial={String(piece?.pieces ?? 1)}
          inputMode="numeric"
          autoComplete="off"
        />
        <Field name="note" label={t.note} answer={answer} initial={piece?.note ?? ''} autoComplete="off" />
      </div>
    </>
  );
}

import Button from '@mui/material/Button';
import { Link } from 'react-router';
import type { JobBlank } from '#core/job/index.ts';
import { evenLength, shapeKeys, shapes, type ShapeKey } from '#core/place/index.ts';
import { blankKeys, blanks } from '#core/vinyls/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { words } from '../../messages/index.ts';
import { Field, FormNotice, SelectField } from '../base/Field.tsx';
import { typedLength } from '../base/format.ts';
import { WriteForm } from '../base/WriteForm.tsx';
import { useLengthUnit } from '../people/usePerson.ts';
import { ShapeDrawing } from './ShapeDrawing.tsx';
import { capitalise } from '#core/units/index.ts';

/** What a form starts from: a shape with its usual measures, a blank that is kept, or the one of the job. */
export type BlankStart = Omit<JobBlank, 'side'> & { side?: string };

export const usualBlank = (shape: ShapeKey, unit: 'mm' | 'in'): BlankStart => {
  const s = shapes[shape];
  const even = (um: number) => evenLength(um, unit);
  return {
    shape,
    surface: s.surface,
    width: even(s.width),
    height: even(s.height),
    margins: { side: even(s.margins.side), top: even(s.margins.top), bottom: even(s.margins.bottom) },
    size: '',
    fabric: '',
    hex: '#f2efe8',
  };
};

type Own = { id: string; name: string };

/** What is made: a shape in one tap, then its measures. */
export function ShapeNav({
  shape,
  own,
  chosen,
}: {
  shape: ShapeKey | undefined;
  own: readonly Own[];
  chosen: string | undefined;
}) {
  const t = words.jobBlank;
  return (
    <nav className="blanks shapes" aria-label={t.shapes}>
      <ul>
        {own.map((b) => (
          <li key={b.id}>
            <Link to={`?blank=${b.id}`} aria-current={b.id === chosen ? 'true' : undefined} preventScrollReset>
              <span className="quiet small">{t.mine}</span>
              <span>{b.name}</span>
            </Link>
          </li>
        ))}
        {shapeKeys.map((key) => (
          <li key={key}>
            <Link to={`?shape=${key}`} aria-current={!chosen && key === shape ? 'true' : undefined} preventScrollReset>
              <ShapeDrawing shape={key} hex="var(--sheet)" size={44} />
              <span>{shapes[key].word}</span>
            </Link>
          </li>
        ))}
      </ul>
    </nav>
  );
}

/** The measures of a blank. */
export function BlankForm({
  what,
  seen,
  start,
  keep = '',
  count,
  name,
  answer,
  submit,
}: {
  what: string;
  /** See `WriteForm`. */
  seen?: string;
  /** The name under which it is kept: taken again under it, it is measured anew. */
  keep?: string | undefined;
  start: BlankStart;
  count: number;
  name: string;
  answer: FormAnswer | undefined;
  submit: string;
}) {
  const t = words.jobBlank;
  const unit = useLengthUnit();
  const shape = shapes[start.shape];
  const length = (um: number) => typedLength(um, unit);
  const lengths = { unit, inputMode: 'decimal' as const };
  const measure = (key: string, label: string, um: number) => (
    <Field
      name={key}
      label={`${label}, ${lengths.unit}`}
      answer={answer}
      initial={length(um)}
      slotProps={{ htmlInput: { inputMode: lengths.inputMode } }}
    />
  );
  return (
    <WriteForm
      what={what}
      {...(seen ? { seen } : {})}
      className="form blank-form"
      noValidate
      key={`${start.shape} ${start.width} ${start.height} ${start.hex}`}
    >
      <input type="hidden" name="shape" value={start.shape} />
      <FormNotice answer={answer} text={words.errors.form} />
      <p className="quiet">{t.measures(shape.measures)}</p>
      <div className="pair">
        {measure('width', t.width, start.width)}
        {measure('height', t.height, start.height)}
      </div>
      <div className="triple">
        {measure('edge', t.edge, start.margins.side)}
        {measure('top', t.top, start.margins.top)}
        {measure('bottom', t.bottom, start.margins.bottom)}
      </div>
      <div className="pair">
        <SelectField
          name="surface"
          label={t.surface}
          answer={answer}
          initial={start.surface}
          options={blankKeys.map((k) => [k, blanks[k].word.split(':')[0]!] as const)}
        />
        <SelectField
          name="side"
          label={t.side}
          answer={answer}
          initial={start.side ?? shape.sides[0]!}
          options={shape.sides.map((s) => [s, capitalise(s)] as const)}
        />
      </div>
      <div className="triple">
        <Field
          name="count"
          label={t.count}
          answer={answer}
          initial={String(count)}
          slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        />
        <Field name="size" label={t.size} answer={answer} initial={start.size} />
        <Field name="hex" label={t.hex} answer={answer} initial={start.hex} type="color" />
      </div>
      <details open={!!(answer?.fields.name ?? answer?.fields.keep ?? answer?.fields.fabric)}>
        <summary>{t.name}</summary>
        <div className="form above-8">
          <Field name="name" label={t.name} answer={answer} initial={name} />
          <Field name="fabric" label={t.fabric} answer={answer} initial={start.fabric} />
          <Field name="keep" label={t.keep} answer={answer} initial={keep} help={t.keepHelp} />
        </div>
      </details>
      <div className="actions">
        <Button type="submit" variant="contained">
          {submit}
        </Button>
      </div>
    </WriteForm>
  );
}

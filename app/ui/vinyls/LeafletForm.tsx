import Button from '@mui/material/Button';
import { peels, pressures, washes, type Leaflet } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { Field, FormNotice, SelectField } from '../base/Field.tsx';
import { Folded } from '../base/Folded.tsx';
import { WriteForm } from '../base/WriteForm.tsx';
import { usePerson, useTemperatureUnit } from '../people/usePerson.ts';
import { wholeDegrees, capitalise } from '#core/units/index.ts';

/**
 * The press figures of a vinyl, said by whoever has them: copied from its leaflet, or one's own. The one form for it, on the bench card and in a
 * job; what was copied before stays.
 */
export function LeafletForm({
  vinyl,
  leaflet,
  answer,
  inJob = false,
  step,
}: {
  vinyl: string;
  leaflet: Leaflet | undefined;
  answer: FormAnswer | undefined;
  /** In a job only the press is asked for, and figures of one's own may be said. */
  inJob?: boolean;
  /** The step of the job to come back to. */
  step?: string;
}) {
  const t = words.leaflet;
  const unit = useTemperatureUnit();
  const guest = usePerson()?.guest ?? true;
  const heat = leaflet?.heat;
  const shown = heat === undefined ? '' : wholeDegrees(heat, unit);
  const more = [leaflet?.blade, leaflet?.passes, leaflet?.cut, leaflet?.wash].some((v) => v !== undefined);
  const pick = (name: 'pressure' | 'peel' | 'wash', label: string, list: readonly string[]) => (
    <SelectField
      name={name}
      label={label}
      answer={answer}
      initial={leaflet?.[name] ?? ''}
      options={[['', t.notSaid], ...list.map((v) => [v, v] as const)]}
    />
  );
  const number = (name: string, label: string, initial: number | undefined) => (
    <Field name={name} label={label} answer={answer} initial={String(initial ?? '')} inputMode="numeric" />
  );
  return (
    <WriteForm what="leaflet" className="form leaflet-form" noValidate preventScrollReset key={JSON.stringify(leaflet)}>
      <FormNotice answer={answer?.fields.form ? answer : undefined} text={words.errors.form} />
      <input type="hidden" name="heatUnit" value={unit} />
      <input type="hidden" name="vinyl" value={vinyl} />
      {step && <input type="hidden" name="step" value={step} />}
      <div className="fields">
        <Field name="heat" label={t.heat(unit)} answer={answer} initial={String(shown)} inputMode="decimal" />
        {number('from', t.from, leaflet?.seconds?.[0])}
        {number('to', t.to, leaflet?.seconds?.[1])}
        {pick('peel', capitalise(words.press.peel), peels)}
        {pick('pressure', capitalise(words.press.pressure), pressures)}
      </div>
      {!inJob && (
        <Folded summary={t.more} open={more}>
          {() => (
            <div className="fields">
              {number('blade', t.bladeField, leaflet?.blade)}
              {number('passes', t.passesField, leaflet?.passes)}
              {pick('wash', t.wash, washes)}
              <Field name="cut" label={t.cut} answer={answer} initial={leaflet?.cut ?? ''} />
              <Field name="source" label={t.source} answer={answer} initial={leaflet?.source ?? ''} />
            </div>
          )}
        </Folded>
      )}
      <div className="actions">
        {!(inJob && guest) && (
          <Button type="submit" variant="contained" name="said" value="leaflet">
            {t.save}
          </Button>
        )}
        {inJob && (
          <Button type="submit" variant={guest ? 'contained' : 'outlined'} name="said" value="own">
            {t.own}
          </Button>
        )}
      </div>
    </WriteForm>
  );
}

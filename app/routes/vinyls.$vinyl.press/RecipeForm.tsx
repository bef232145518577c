import Button from '@mui/material/Button';
import { blanks, peels, pressures, supports, type BlankKey } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { Field, FormNotice, SelectField } from '../../ui/base/Field.tsx';
import { Folded } from '../../ui/base/Folded.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { useTemperatureUnit } from '../../ui/people/usePerson.ts';

/** A further press of the same recipe, with all its own figures; left empty it is none. */
function Further({ n, answer }: { n: 1 | 2; answer: FormAnswer | undefined }) {
  const t = words.recipes;
  const typed = ['heat', 'seconds', 'pressure', 'cover', 'ask'].some((k) => answer?.values[`${k}${n}`]);
  return (
    <Folded summary={t.again(n)} open={typed} testId={`further-${n}`}>
      {() => (
        <div className="fields">
          <Field name={`heat${n}`} label={t.nextHeat} answer={answer} inputMode="decimal" />
          <Field name={`seconds${n}`} label={t.nextSeconds} answer={answer} inputMode="numeric" />
          <SelectField
            name={`pressure${n}`}
            label={t.pressure}
            answer={answer}
            options={[['', t.any], ...pressures.map((p) => [p, t.pressures[p]] as const)]}
          />
          <Field name={`cover${n}`} label={t.cover} answer={answer} />
          <Field name={`ask${n}`} label={t.ask} answer={answer} help={t.askHelp} />
        </div>
      )}
    </Folded>
  );
}

/** A recipe of one's own, in the scale one's press reads. */
export function RecipeForm({
  surface,
  seen,
  presses,
  answer,
}: {
  surface: BlankKey;
  /** See `WriteForm`. */
  seen: string;
  presses: readonly { id: string; name: string }[];
  answer: FormAnswer | undefined;
}) {
  const t = words.recipes;
  const unit = useTemperatureUnit();
  const seconds = (name: 'from' | 'to' | 'wait' | 'before' | 'after' | 'back') => (
    <Field name={name} label={t[name]} answer={answer} inputMode="numeric" />
  );
  const on = blanks[surface].word.split(':')[0]!;
  return (
    <WriteForm what="write" seen={seen} className="form recipe-form">
      <FormNotice answer={answer?.fields.form ? answer : undefined} text={words.errors.form} />
      <SelectField
        name="purpose"
        label={t.purpose}
        answer={answer}
        initial="full"
        options={Object.entries(t.purposes)}
      />
      <div className="fields">
        <Field name="heat" label={t.heat} answer={answer} inputMode="decimal" />
        <SelectField
          name="unit"
          label={t.unit}
          answer={answer}
          initial={unit}
          options={[
            ['F', '°F'],
            ['C', '°C'],
          ]}
        />
        {seconds('from')}
        {seconds('to')}
        <SelectField
          name="pressure"
          label={t.pressure}
          answer={answer}
          options={[['', t.any], ...pressures.map((p) => [p, t.pressures[p]] as const)]}
        />
        <SelectField
          name="peel"
          label={t.peel}
          answer={answer}
          initial="by the leaflet"
          options={peels.map((p) => [p, p])}
        />
        {seconds('wait')}
      </div>
      {([1, 2] as const).map((n) => (
        <Further key={n} n={n} answer={answer} />
      ))}
      <fieldset className="plain-set">
        <legend>{t.more}</legend>
        <div className="fields">
          {seconds('before')}
          <Field name="cover" label={t.cover} answer={answer} />
          <SelectField
            name="support"
            label={t.support}
            answer={answer}
            options={[['', t.any], ...supports.map((s) => [s, t.supports[s]] as const)]}
          />
          {seconds('after')}
          {seconds('back')}
          <SelectField
            name="margin"
            label={t.margin}
            answer={answer}
            options={[['', t.any], ...Object.entries(t.margins)]}
          />
          <Field name="then" label={t.then} answer={answer} />
          <Field name="drawn" label={t.drawn} answer={answer} inputMode="decimal" help={t.shrinks} />
          <Field name="pressed" label={t.pressed} answer={answer} inputMode="decimal" />
        </div>
      </fieldset>
      <div className="fields">
        <SelectField
          name="surface"
          label={t.where}
          answer={answer}
          initial={surface}
          options={[
            [surface, t.for(on)],
            ['', t.anywhere],
          ]}
        />
        <SelectField
          name="press"
          label={t.press}
          answer={answer}
          options={[['', t.anyPress], ...presses.map((p) => [p.id, p.name] as const)]}
        />
      </div>
      <label className="tick-line">
        <input type="checkbox" name="shared" value="yes" defaultChecked={answer?.values.shared === 'yes'} />{' '}
        {t.shareTick}
      </label>
      {answer?.fields.agreed && (
        <div className="notice bad" role="alert">
          <p>{answer.fields.agreed}</p>
          <label className="tick-line">
            <input type="checkbox" name="agreed" value="yes" /> {t.agree}
          </label>
        </div>
      )}
      <Button type="submit" variant="contained">
        {t.keep}
      </Button>
    </WriteForm>
  );
}

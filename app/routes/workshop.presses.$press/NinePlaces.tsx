import Button from '@mui/material/Button';
import { bondGrades } from '#core/press/index.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { Field, SelectField } from '../../ui/base/Field.tsx';
import { Section } from '../../ui/base/Section.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import type { Route } from './+types/route';
import { degreesApart, wholeDegrees } from '#core/units/index.ts';

/** The same swatch in nine places of the plate: where it is cool, and what size still presses evenly. */
export function NinePlaces({
  shows,
  seen,
  places,
  answer,
}: {
  shows: 'C' | 'F';
  /** See `WriteForm`. */
  seen: string;
  places: Route.ComponentProps['loaderData']['places'];
  answer: FormAnswer | undefined;
}) {
  const t = words.measuredPress;
  const degrees = (celsius: number) => `${Math.round(degreesApart(celsius * 1000, shows))} °${shows}`;
  const set = places && wholeDegrees(places.heat, shows);
  const read = places?.read;
  return (
    <Section id="places" title={t.nine} className="above-40">
      <p className="quiet">{t.nineHow}</p>
      {read && (
        <p className="lede" data-testid="nine">
          {read.uneven < 2
            ? t.isEven
            : t.coolest(t.rows[read.coolest.row]!, t.columns[read.coolest.column]!, degrees(read.uneven))}{' '}
          {t.evenPart(read.even.columns, read.even.rows)}
        </p>
      )}
      <WriteForm what="places" seen={seen} className="form measure-press above-14">
        <div className="fields">
          <Field
            name="heat"
            label={t.nineHeat(shows)}
            answer={answer}
            inputMode="decimal"
            initial={set === undefined ? '' : String(set)}
          />
          <Field
            name="seconds"
            label={t.nineSeconds}
            answer={answer}
            inputMode="numeric"
            initial={places ? String(places.seconds) : ''}
          />
        </div>
        <div className="nine">
          {Array.from({ length: 9 }, (_, i) => (
            <SelectField
              key={i}
              name={`place-${i}`}
              label={`${t.rows[Math.floor(i / 3)]!}, ${t.columns[i % 3]!}`}
              answer={answer}
              initial={places?.grades[i] ?? ''}
              options={[['', words.swatch.not] as const, ...bondGrades.map((g) => [g, g] as const)]}
            />
          ))}
        </div>
        <Button type="submit">{t.keep}</Button>
      </WriteForm>
    </Section>
  );
}

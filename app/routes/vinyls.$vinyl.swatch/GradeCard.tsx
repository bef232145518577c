import Button from '@mui/material/Button';
import { bondGrades, harmGrades, puffGrades, puffHarms } from '#core/press/index.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { SelectField } from '../../ui/base/Field.tsx';
import { bothHeats, isolate } from '../../ui/base/format.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { useTemperatureUnit } from '../../ui/people/usePerson.ts';
import { CardDrawing } from './CardDrawing.tsx';
import type { Route } from './+types/route';

type Card = Route.ComponentProps['loaderData']['cards'][number];

/** Every square of a card with what is seen of it: after the peel, and later after the wash. */
export function GradeCard({
  card,
  n,
  film,
  answer,
  hex,
  title = false,
}: {
  card: Card;
  n: number;
  film: 'flat' | 'puff';
  answer: FormAnswer | undefined;
  hex: string;
  title?: boolean;
}) {
  const t = words.swatch;
  const unit = useTemperatureUnit();
  const bonds = film === 'puff' ? puffGrades : bondGrades;
  const harms = film === 'puff' ? puffHarms : harmGrades;
  const choice = (of: readonly string[]) => [['', t.not] as const, ...of.map((w) => [w, w] as const)];
  return (
    <section className="swatch-grade" aria-label={t.say(n)}>
      {title && <CardDrawing hex={hex} cells={card.cells} />}
      {title && (
        <p className="quiet">
          {card.press && t.on(isolate(card.press))} {t.how(card.cells.length)}
        </p>
      )}
      <WriteForm what="grade" className="above-14">
        <h2>{t.say(n)}</h2>
        <input type="hidden" name="card" value={card.id} />
        <ul className="swatch-cells">
          {card.cells.map((c, i) => (
            <li key={c.id}>
              <p>
                <strong>{t.square(i + 1)}</strong>{' '}
                <span className="quiet">{t.cell(c.set ?? bothHeats(c.heat, unit)[0], c.seconds)}</span>
              </p>
              <SelectField
                name={`bond-${i}`}
                label={t.bond}
                answer={answer}
                initial={c.bond ?? ''}
                options={choice(bonds)}
              />
              <SelectField
                name={`harm-${i}`}
                label={t.harm}
                answer={answer}
                initial={c.harm ?? ''}
                options={choice(harms)}
              />
              <SelectField
                name={`washed-${i}`}
                label={t.washed}
                answer={answer}
                initial={c.washed ?? ''}
                options={choice(bonds)}
              />
            </li>
          ))}
        </ul>
        <Button type="submit" variant={title ? 'contained' : 'outlined'}>
          {t.grade}
        </Button>
      </WriteForm>
      <WriteForm what="away">
        <input type="hidden" name="card" value={card.id} />
        <Button type="submit" variant="text">
          {t.away}
        </Button>
      </WriteForm>
    </section>
  );
}

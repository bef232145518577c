import Button from '@mui/material/Button';
import { useState } from 'react';
import { bondGrades, harmGrades, puffGrades, puffHarms } from '#core/press/index.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { isolate } from '../../ui/base/format.ts';
import { PressTimer } from '../../ui/base/PressTimer.tsx';
import { useAlive } from '../../ui/base/useAlive.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { useTemperatureUnit } from '../../ui/people/usePerson.ts';
import { CardDrawing } from './CardDrawing.tsx';
import type { Route } from './+types/route';
import { heatInBoth } from '#core/units/index.ts';

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
  // Before it is alive every square shows its answers.
  const alive = useAlive();
  const { cells } = card;
  const [seen, setSeen] = useState(() =>
    cells.map((c, i) => ({
      bond: answer?.values[`bond-${i}`] ?? c.bond ?? '',
      harm: answer?.values[`harm-${i}`] ?? c.harm ?? '',
      washed: answer?.values[`washed-${i}`] ?? c.washed ?? '',
    })),
  );
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      seen.findIndex((s) => !s.bond || !s.harm),
    ),
  );
  const say = (i: number, name: 'bond' | 'harm' | 'washed', word: string) => {
    const now = seen.map((s, k) => (k === i ? { ...s, [name]: word } : s));
    setSeen(now);
    const next = now.findIndex((s) => !s.bond || !s.harm);
    if (name !== 'washed' && now[i]!.bond && now[i]!.harm && next >= 0) setAt(next);
  };
  return (
    <section className="swatch-grade" aria-label={t.say(n)}>
      {title && (
        <p className="quiet">
          {card.press && t.on(isolate(card.press))} {t.how(cells.length)}
        </p>
      )}
      <WriteForm what="grade" className="above-14">
        <h2>{t.say(n)}</h2>
        <input type="hidden" name="card" value={card.id} />
        <CardDrawing hex={hex} cells={cells} at={alive ? at : undefined} onChoose={setAt} seen={seen} />
        {cells.map((c, i) => (
          <fieldset key={c.id} className="swatch-cell" hidden={alive && i !== at} data-testid={`square-${i}`}>
            <legend>
              <strong>{t.square(i + 1)}</strong>{' '}
              <span className="quiet">{t.cell(c.set ?? heatInBoth(c.heat, unit)[0], c.seconds)}</span>
            </legend>
            {alive && i === at && !seen[i]!.bond && <PressTimer key={c.id} seconds={c.seconds} />}
            <Answers name={`bond-${i}`} says={t.bond} of={bonds} chosen={seen[i]!.bond} on={(w) => say(i, 'bond', w)} />
            <Answers name={`harm-${i}`} says={t.harm} of={harms} chosen={seen[i]!.harm} on={(w) => say(i, 'harm', w)} />
            {(card.graded || !alive) && (
              <Answers
                name={`washed-${i}`}
                says={t.washed}
                of={bonds}
                chosen={seen[i]!.washed}
                on={(w) => say(i, 'washed', w)}
              />
            )}
          </fieldset>
        ))}
        <div className="actions">
          <Button type="submit" size="large" variant={title ? 'contained' : 'outlined'}>
            {t.grade}
          </Button>
        </div>
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

/** One row of large answers; what was said by mistake is taken back with a tap on it. */
function Answers({
  name,
  says,
  of,
  chosen,
  on,
}: {
  name: string;
  says: string;
  of: readonly string[];
  chosen: string;
  on: (word: string) => void;
}) {
  return (
    <div role="radiogroup" aria-label={says} className="swatch-answers">
      <span>{says}</span>
      {of.map((word) => (
        <label key={word} className={word === chosen ? 'swatch-answer chosen' : 'swatch-answer'}>
          <input
            type="radio"
            name={name}
            value={word}
            checked={word === chosen}
            onChange={() => on(word)}
            onClick={() => word === chosen && on('')}
          />
          {word}
        </label>
      ))}
    </div>
  );
}

import Button from '@mui/material/Button';
import { saySeconds } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import { heatOf, isolate } from '../../ui/base/format.ts';
import { sayFollows, sayTrust } from '../../ui/vinyls/sayPress.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { useTemperatureUnit } from '../../ui/people/usePerson.ts';
import type { Route } from './+types/route';

type Recipe = Route.ComponentProps['loaderData']['recipes'][number];

/** What else is set or done, in one line. */
function facts({ way, on }: Recipe): string {
  const t = words.recipes;
  return [
    on && t.onPress(isolate(on)),
    way.pressure && words.jobSheet.pressing.pressure[way.pressure],
    `${words.jobSheet.pressing.cover(way.cover)}`,
    way.support && way.support !== 'as usual' && words.jobSheet.pressing.under[way.support],
    way.peel !== 'by the leaflet' &&
      `${words.jobSheet.pressing.peel(way.peel).toLowerCase()}${way.wait ? ` ${t.waits(way.wait)}` : ''}`,
    way.before !== undefined && t.facts(way.before),
    way.after && t.afterS(way.after),
    way.back && t.backS(way.back),
    way.margin && `${t.margin.toLowerCase()} ${t.margins[way.margin]}`,
  ]
    .filter(Boolean)
    .join(' · ');
}

/** What follows by the same recipe; what somebody wrote beside it is a note. */
const follows = ({ from, way }: Recipe, unit: 'C' | 'F'): string[] =>
  from !== 'type' && way.then
    ? [...sayFollows({ ...way, then: undefined }, unit), words.recipes.note(way.then)]
    : sayFollows(way, unit);

const whose = (r: Recipe): string => sayTrust(r);

/** The one answer: heat and time large, one line of what it rests on, and what to do next. */
export function AnswerRecipe({ recipe: r }: { recipe: Recipe }) {
  const t = words.recipes;
  const unit = useTemperatureUnit();
  const heat = heatOf(r.way, unit);
  return (
    <section className="recipe-answer" data-testid="recipe" data-standing={r.standing}>
      <p className="recipe-number">
        <span>{r.word ? words.pressPlan.word(r.word) : heat ? heat[0] : t.seconds}</span>{' '}
        {heat && <span className="quiet small-number">{r.word ? words.pressPlan.about(heat[0]) : heat[1]}</span>}
        <span className="recipe-time">{r.way.seconds ? saySeconds(r.way.seconds) : t.seconds}</span>
      </p>
      <p className="recipe-facts">{facts(r)}</p>
      {follows(r, unit).map((line) => (
        <p key={line}>{line}</p>
      ))}
      <p className="recipe-trust">
        <strong>{whose(r)}</strong> {r.says} {r.twoClocks > 0 && `${t.twoClocks(r.twoClocks)} `}
        <span className="quiet">{t.next[r.standing]}</span>
      </p>
      {r.beyond.map((b) => (
        <p key={b} className="notice bad">
          {b}
        </p>
      ))}
      {r.from === 'you' && r.id && <Own recipe={r} />}
    </section>
  );
}

function Own({ recipe: r }: { recipe: Recipe }) {
  const t = words.recipes;
  return (
    <div className="line-up above-14">
      <WriteForm what="share">
        <input type="hidden" name="recipe" value={r.id} />
        <input type="hidden" name="shared" value={r.shared ? 'no' : 'yes'} />
        <Button type="submit" variant="text">
          {r.shared ? t.unshare : t.share}
        </Button>
      </WriteForm>
      <WriteForm what="away">
        <input type="hidden" name="recipe" value={r.id} />
        <Button type="submit" variant="text">
          {t.away}
        </Button>
      </WriteForm>
    </div>
  );
}

/** Another way in a row: its figures, how it held, and one tap to press so. */
export function OtherRecipe({ recipe: r, which }: { recipe: Recipe; which: string }) {
  const t = words.recipes;
  const unit = useTemperatureUnit();
  const heat = heatOf(r.way, unit);
  return (
    <li data-testid="other-recipe">
      <div>
        <p className="recipe-line">
          {r.word && heat
            ? `${words.pressPlan.word(r.word)} (${words.pressPlan.about(heat[0])})`
            : heat
              ? `${heat[0]} (${heat[1]})`
              : t.seconds}
          , {saySeconds(r.way.seconds)}
        </p>
        <p className="quiet">{facts(r)}</p>
        {follows(r, unit).map((line) => (
          <p key={line} className="quiet">
            {line}
          </p>
        ))}
        {r.beyond.map((b) => (
          <p key={b} className="care-line">
            {b}
          </p>
        ))}
      </div>
      <p>
        <strong>{t.held(r.held, r.pieces)}</strong> <span className="quiet">{whose(r)}</span>
      </p>
      {r.from === 'you' ? (
        <Own recipe={r} />
      ) : (
        <WriteForm what="take">
          <input type="hidden" name="recipe" value={which} />
          <Button type="submit">{t.take}</Button>
        </WriteForm>
      )}
    </li>
  );
}

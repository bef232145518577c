import { useState } from 'react';
import { liftOff, type ArtLayer, type LayerCheck } from '#core/artwork/index.ts';
import type { CheckFilm } from '#work/jobs/check.ts';
import { words } from '../../messages/index.ts';
import { Folded } from '../../ui/base/Folded.tsx';
import type { Board } from './useBoard.ts';

/** Weeding that takes no longer than this raises no question, minutes. */
const LONG = 12;

type Props = {
  board: Board;
  layers: readonly { layer: ArtLayer; film: CheckFilm }[];
  checks: readonly LayerCheck[];
};

/** Weed it, or cut it through and lift it whole: one of both is recommended, for each layer where the question comes up. */
export function Lift({ board, layers, checks }: Props) {
  const t = words.check.lift;
  const [fewPresses, setFewPresses] = useState(false);
  const { artwork, widthUm } = board.now!;
  const asked = layers.flatMap(({ layer, film }) => {
    const weed = checks.find((c) => c.layer === layer.id)?.weed;
    if (!weed) return [];
    const lift = liftOff(artwork, layer, film.needs, widthUm, weed, { tack: film.tack, fewPresses });
    return [{ layer, film, lift, comesUp: lift.do === 'lift' || weed.minutes >= LONG }];
  });
  const few = (
    <label className="check quiet">
      <input type="checkbox" checked={fewPresses} onChange={(e) => setFewPresses(e.target.checked)} /> {t.fewPresses}
    </label>
  );
  if (!asked.some((a) => a.comesUp))
    return asked.some((a) => a.lift.because === 'few large pieces') ? (
      <Folded summary={t.title}>{() => few}</Folded>
    ) : null;
  return (
    <section className="above-24" aria-labelledby="lift" data-testid="lift-off">
      <h2 className="section-word" id="lift">
        {t.title}
      </h2>
      <ul className="pairs">
        {asked
          .filter((a) => a.comesUp)
          .map(({ layer, film, lift }) => (
            <li key={layer.id}>
              <span className="dot-colour" style={{ background: layer.hex }} aria-hidden="true" />{' '}
              <strong>{t.do[lift.do]}</strong>{' '}
              {lift.minutes.lift === undefined
                ? t.cannot
                : t.minutes(Math.round(lift.minutes.weed) || 1, Math.round(lift.minutes.lift) || 1)}
              {lift.do === 'lift' && (
                <>
                  {' '}
                  {t.from[lift.from]}{' '}
                  {film.own && (
                    <a className="plain-link" href={`/vinyls/${film.key}?wanted=through`}>
                      {t.setting}
                    </a>
                  )}
                </>
              )}
              <Folded summary={t.why}>
                {() => (
                  <ul>
                    <li>{t.because[lift.because]}</li>
                    {lift.minutes.lift !== undefined && <li>{t.tears(Math.round(100 * lift.tears))}</li>}
                    {lift.minutes.lift !== undefined && t.risks.map((r) => <li key={r}>{r}</li>)}
                  </ul>
                )}
              </Folded>
            </li>
          ))}
      </ul>
      {few}
    </section>
  );
}

import Button from '@mui/material/Button';
import { useState } from 'react';
import { pairDefaults, type ArtLayer, type LayerPair } from '#core/artwork/index.ts';
import { stackAdvice } from '#core/press/index.ts';
import { parseDecimal } from '#core/units/index.ts';
import type { CheckFilm } from '#work/jobs/check.ts';
import { words } from '../../messages/index.ts';
import { isolate, sayLength } from '../../ui/base/format.ts';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import type { Board } from './useBoard.ts';
import { useAsked } from './useAsked.ts';

/** Pairs that are shown: the most covered ones. */
const MOST = 8;
const KEPT = 'versipel_overlap';
/** Overlaps a hand can lay, µm. */
const OVERLAPS = { min: 50, max: 3_000 };

const keptOverlap = () => Number(globalThis.sessionStorage?.getItem(KEPT)) || pairDefaults.choke;

/** Layers pair by pair: laid on each other or side by side, what is wasted below, what rim is left. */
export function Pairs({ board, layers }: { board: Board; layers: readonly { layer: ArtLayer; film: CheckFilm }[] }) {
  const t = words.check.pairs;
  const { artwork, widthUm } = board.now!;
  const growth = layers.map((l) => l.film.needs.growth);
  const done = useAsked(layers.length > 1 ? { pairs: { artwork, growth, widthUm } } : undefined, [
    artwork,
    widthUm,
    growth.join(' '),
  ]);
  const [overlap, setOverlap] = useState(keptOverlap);
  /** What is typed holds as soon as it is an overlap a hand can lay. */
  const type = (typed: string) => {
    const um = Math.round((parseDecimal(typed) ?? NaN) * 1000);
    if (!(um >= OVERLAPS.min && um <= OVERLAPS.max)) return;
    setOverlap(um);
    sessionStorage.setItem(KEPT, String(um));
  };
  if (layers.length < 2 || !done?.pairs || done.pairs.length === 0) return null;
  return (
    <section className="above-24" aria-labelledby="pairs" data-testid="pairs">
      <h2 className="section-word" id="pairs">
        {t.title}
      </h2>
      <ul className="pairs">
        {done.pairs.slice(0, MOST).map((pair) => (
          <Pair key={`${pair.lower} ${pair.upper}`} pair={pair} board={board} layers={layers} overlap={overlap} />
        ))}
      </ul>
      <label className="quiet">
        {t.overlap}{' '}
        <input
          className="plain-field short"
          inputMode="decimal"
          defaultValue={overlap / 1000}
          onChange={(e) => type(e.target.value)}
        />{' '}
        mm
      </label>
    </section>
  );
}

/** Films are tenths of a millimetre thick. */
const thick = (um: number) => `${(um / 1000).toFixed(2)} mm`;

type PairProps = {
  pair: LayerPair;
  board: Board;
  layers: readonly { layer: ArtLayer; film: CheckFilm }[];
  overlap: number;
};

function Pair({ pair, board, layers, overlap }: PairProps) {
  const t = words.check.pairs;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const say = (um: number) => sayLength(um, unit, style);
  const [below, above] = [pair.lower, pair.upper].map((id) => layers.find((l) => l.layer.id === id));
  if (!below || !above) return null;
  const film = ({ layer, film: f }: typeof below) => ({ ...f.stack, id: layer.id, name: isolate(f.name) });
  const advice = stackAdvice(film(below), film(above));
  const short = pair.rim && pair.rim.widthUm < pairDefaults.rim ? pairDefaults.rim - pair.rim.widthUm : 0;
  const busy = board.busy !== undefined;
  const knock = (
    <Button
      disabled={busy}
      onClick={() => void board.mend({ do: 'knock out', lower: pair.lower, upper: pair.upper, choke: overlap })}
      data-testid="knock-out"
    >
      {t.knock(say(overlap))}
    </Button>
  );
  // What lies side by side already covers a seam and no more.
  const seam = (pair.coveredMm2 * 1e6) / (above.layer.length * (board.now!.widthUm / board.now!.artwork.width));
  if (seam < 2.5 * overlap)
    return (
      <li>
        <PairDots below={below.layer.hex} above={above.layer.hex} /> {t.beside}
      </li>
    );
  return (
    <li>
      <PairDots below={below.layer.hex} above={above.layer.hex} />{' '}
      {pair.hidden ? (
        <>
          {t.hidden}{' '}
          <Button disabled={busy} onClick={() => void board.mend({ do: 'remove', layer: pair.lower })}>
            {t.remove}
          </Button>
        </>
      ) : (
        <>
          {t.covered(Math.round(100 * pair.share))} <strong>{t.advice[advice.do]}</strong>{' '}
          {advice.because === 'must' ? advice.trouble!.why : t.because[advice.because]} {knock}
          {short > 0 && (
            <p>
              {t.rim(say(pair.rim!.widthUm))}{' '}
              <Button
                disabled={busy}
                onClick={() => void board.mend({ do: 'thicken', layer: pair.lower, by: short })}
                data-testid="widen-rim"
              >
                {t.widen(say(short))}
              </Button>
            </p>
          )}
          <p className="quiet small">
            {t.costs(thick(advice.overlay.thickUm), thick(advice.beside.thickUm))}
            {pair.rim && short === 0 && ` ${t.rimStays(say(pair.rim.widthUm))}`}
          </p>
        </>
      )}
    </li>
  );
}

/** The upper colour on the lower one. */
function PairDots({ below, above }: { below: string; above: string }) {
  return (
    <span className="pair-dots" aria-hidden="true">
      <span className="dot-colour" style={{ background: below }} />
      <span className="dot-colour" style={{ background: above }} />
    </span>
  );
}

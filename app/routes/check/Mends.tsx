import Button from '@mui/material/Button';
import { useEffect, useState } from 'react';
import { mendDefaults, ofFilm, outlineDefaults, smallOf, type LayerCheck, type LeastOutline } from '#core/artwork/index.ts';
import { words } from '../../messages/index.ts';
import { sayLength } from '../../ui/base/format.ts';
import { askArtwork } from '../../ui/jobs/askArtwork.ts';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import type { Board } from './useBoard.ts';

/** After the size was dragged the thinnest outline is worked out this much later, ms. */
const LATER = 400;

/** The thinnest outline below everything at this size; undefined until it is worked out. */
function useOutline(board: Board): Omit<LeastOutline, 'rings'> | undefined {
  const { artwork, widthUm } = board.now!;
  // An outline lies below everything: plain film, unless the lowest layer is of something finer.
  const { line } = board.filmOf(artwork.layers[0]!.hex).needs;
  const [found, setFound] = useState<{
    of: unknown;
    widthUm: number;
    line: number;
    outline: Omit<LeastOutline, 'rings'>;
  }>();
  useEffect(() => {
    let stop = () => undefined as void;
    const wait = setTimeout(() => {
      const asked = askArtwork({ outline: { artwork, widthUm, line } });
      stop = asked.stop;
      asked.answer.then(
        ({ outline }) => setFound({ of: artwork, widthUm, line, outline: outline! }),
        () => undefined,
      );
    }, LATER);
    return () => {
      clearTimeout(wait);
      stop();
    };
  }, [artwork, widthUm, line]);
  return found?.of === artwork && found.widthUm === widthUm && found.line === line ? found.outline : undefined;
}

/** What mends the drawing, one tap each; every step can be gone back. */
export function Mends({ board, checks }: { board: Board; checks: readonly LayerCheck[] }) {
  const t = words.check.mends;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const outline = useOutline(board);
  const { artwork, widthUm } = board.now!;
  const say = (um: number) => sayLength(um, unit, style);
  const least = outline?.radius;
  const by = least === undefined ? undefined : Math.max(least, outlineDefaults.usual);
  const busy = board.busy !== undefined;
  const layers = artwork.layers.map((layer) => ({ layer, small: smallOf(artwork, layer, widthUm) }));
  return (
    <section className="above-24" aria-labelledby="mend">
      <h2 className="section-word" id="mend">
        {t.title}
      </h2>
      {by !== undefined && (
        <p>
          {t.least(say(least!))} {least! < by && t.usual(say(by))}{' '}
          <Button
            disabled={busy}
            onClick={() => void board.mend({ do: 'outline', by, hex: '#f4efe3', corners: 'round' })}
            data-testid="mend-outline"
          >
            {t.outline(say(by))}
          </Button>
        </p>
      )}
      {layers.map(({ layer, small }) => {
        const faults = checks.find((c) => c.layer === layer.id)?.faults ?? [];
        const short = Math.max(0, ...faults.filter(ofFilm).map((f) => f.neededUm - f.widthUm));
        const gap = faults.some((f) => !ofFilm(f));
        const { needs } = board.filmOf(layer.hex);
        const open = needs.gap + 2 * needs.growth + 10;
        return (
          <div
            key={layer.id}
            className="mend-line"
            hidden={!short && !gap && small.holes + layer.holes + small.specks === 0}
          >
            {artwork.layers.length > 1 && (
              <span className="dot-colour" style={{ background: layer.hex }} aria-hidden="true" />
            )}
            {short > 0 && (
              <Button
                disabled={busy}
                onClick={() => void board.mend({ do: 'thicken', layer: layer.id, by: short / 2 + 5 })}
              >
                {t.thicken(say(short / 2 + 5))}
              </Button>
            )}
            {gap && (
              <Button
                disabled={busy}
                onClick={() => void board.mend({ do: 'close', layer: layer.id, under: open })}
                data-testid="mend-close"
              >
                {t.close(say(open))}
              </Button>
            )}
            {small.holes > 0 && (
              <Button
                disabled={busy}
                onClick={() => void board.mend({ do: 'fill', layer: layer.id, under: mendDefaults.small })}
              >
                {t.fillSmall(small.holes)}
              </Button>
            )}
            {layer.holes > small.holes && (
              <Button disabled={busy} onClick={() => void board.mend({ do: 'fill', layer: layer.id })}>
                {t.fill(layer.holes)}
              </Button>
            )}
            {small.specks > 0 && (
              <Button
                disabled={busy}
                onClick={() => void board.mend({ do: 'specks', layer: layer.id, under: mendDefaults.small })}
              >
                {t.specks(small.specks)}
              </Button>
            )}
          </div>
        );
      })}
      <p className="line-up" role="status">
        {board.busy && (
          <>
            {t.working} <Button onClick={board.stop}>{words.jobArt.stop}</Button>
          </>
        )}
        {board.now!.did && !board.busy && t.did[board.now!.did]}{' '}
        {board.undo && (
          <Button variant="text" onClick={board.undo} data-testid="undo">
            {t.undo}
          </Button>
        )}
        {board.redo && (
          <Button variant="text" onClick={board.redo}>
            {t.redo}
          </Button>
        )}
      </p>
    </section>
  );
}

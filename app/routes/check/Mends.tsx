import Button from '@mui/material/Button';
import {
  mendDefaults,
  mendsFor,
  ofFilm,
  openTo,
  outlineDefaults,
  smallOf,
  type ArtLayer,
  type LayerCheck,
  type Mend,
  type WeedingLines,
} from '#core/artwork/index.ts';
import type { ArtworkDone } from '../../../workers/artwork.worker.ts';
import { words } from '../../messages/index.ts';
import { sayLength } from '../../ui/base/format.ts';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import { Split } from './Split.tsx';
import { useAsked } from './useAsked.ts';
import type { Board } from './useBoard.ts';

/** The thinnest outline below everything at this size; undefined until it is worked out. */
function useOutline(board: Board): ArtworkDone['outline'] {
  const { artwork, widthUm } = board.now!;
  // An outline lies below everything: plain film, unless the lowest layer is of something finer.
  const { line } = board.filmOf(artwork.layers[0]!.hex).needs;
  return useAsked({ outline: { artwork, widthUm, line } }, [artwork, widthUm, line])?.outline;
}

/** The colour an outline is drawn in: that of no film, so that one is chosen for it. */
const OUTLINE = '#f4efe3';

type Props = {
  board: Board;
  checks: readonly LayerCheck[];
  /** Whether the hole that is tapped next is filled. */
  tapping: boolean;
  onTapping: (on: boolean) => void;
  /** The layer whose waste is shown in strips, and the lines of all. */
  strips: string | undefined;
  onStrips: (layer: string | undefined) => void;
  waste: Record<string, WeedingLines> | undefined;
};

/** What mends the drawing, one tap each; every step can be gone back. */
export function Mends({ board, checks, tapping, onTapping, strips, onStrips, waste }: Props) {
  const t = words.check.mends;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const outline = useOutline(board);
  const { artwork, widthUm } = board.now!;
  const say = (um: number) => sayLength(um, unit, style);
  const least = outline?.radius;
  const by = least === undefined ? undefined : Math.max(least, outlineDefaults.usual);
  const sharp = outline && Math.max(outline.mitred, outlineDefaults.usual);
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
            onClick={() => void board.mend({ do: 'outline', by, hex: OUTLINE, corners: 'round' })}
            data-testid="mend-outline"
          >
            {t.outline(say(by))}
          </Button>
          {sharp !== undefined && sharp < by && (
            <>
              {' '}
              <Button
                disabled={busy}
                onClick={() => void board.mend({ do: 'outline', by: sharp, hex: OUTLINE, corners: 'mitred' })}
              >
                {t.sharp(say(sharp))}
              </Button>
            </>
          )}
        </p>
      )}
      {layers.map(({ layer, small }) => (
        <LayerMends
          key={layer.id}
          layer={layer}
          small={small}
          board={board}
          faults={checks.find((c) => c.layer === layer.id)?.faults ?? []}
          dot={layers.length > 1}
          strips={strips === layer.id}
          onStrips={(on) => onStrips(on ? layer.id : undefined)}
        />
      ))}
      {artwork.layers.some((l) => l.holes > 0) && (
        <div className="mend-line">
          <Button aria-pressed={tapping} disabled={busy} onClick={() => onTapping(!tapping)} data-testid="tap-hole">
            {tapping ? t.tapping : t.tapHole}
          </Button>
        </div>
      )}
      {strips && waste?.[strips] && (
        <p data-testid="strips-said">{t.stripsAre(waste[strips].lines.length, say(waste[strips].lengthUm))}</p>
      )}
      <Split board={board} />
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

type LayerProps = {
  layer: ArtLayer;
  small: { holes: number; specks: number };
  board: Board;
  faults: LayerCheck['faults'];
  /** Whether its colour has to say which one it is. */
  dot: boolean;
  strips: boolean;
  onStrips: (on: boolean) => void;
};

/** What mends one layer. */
function LayerMends({ layer, small, board, faults, dot, strips, onStrips }: LayerProps) {
  const t = words.check.mends;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const say = (um: number) => sayLength(um, unit, style);
  const { needs } = board.filmOf(layer.hex);
  const open = openTo(needs);
  const gap = faults.some((f) => !ofFilm(f));
  const offers = [
    ...mendsFor(layer.id, faults, needs).flatMap((mend): { says: string; mend: Mend }[] =>
      mend.do === 'thicken'
        ? [{ says: t.thicken(say(mend.by)), mend }]
        : mend.do === 'open'
          ? [{ says: t.open(say(mend.to)), mend }]
          : [],
    ),
    gap && { says: t.close(say(open)), mend: { do: 'close' as const, layer: layer.id, under: open } },
    small.holes > 0 && {
      says: t.fillSmall(small.holes),
      mend: { do: 'fill' as const, layer: layer.id, under: mendDefaults.small },
    },
    layer.holes > small.holes && { says: t.fill(layer.holes), mend: { do: 'fill' as const, layer: layer.id } },
    small.specks > 0 && {
      says: t.specks(small.specks),
      mend: { do: 'specks' as const, layer: layer.id, under: mendDefaults.small },
    },
  ].filter((o) => o !== false);
  return (
    <div className="mend-line">
      {dot && <span className="dot-colour" style={{ background: layer.hex }} aria-hidden="true" />}
      {offers.map(({ says, mend }) => (
        <Button
          key={says}
          disabled={board.busy !== undefined}
          onClick={() => void board.mend(mend)}
          data-testid={`mend-${mend.do}`}
        >
          {says}
        </Button>
      ))}
      <Button aria-pressed={strips} onClick={() => onStrips(!strips)} data-testid="strips">
        {strips ? t.stripsOff : t.strips}
      </Button>
    </div>
  );
}

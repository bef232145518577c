import Button from '@mui/material/Button';
import { useDeferredValue, useMemo, useState } from 'react';
import { checkLayer, layerOfHole, judge, writeSvg, type WeededPart, type WeedingLines } from '#core/artwork/index.ts';
import { seenRange } from '#core/vinyls/index.ts';
import type { CheckFilm } from '#work/jobs/check.ts';
import { words } from '../../messages/index.ts';
import { sayLength } from '../../ui/base/format.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import { Lift } from './Lift.tsx';
import { Pairs } from './Pairs.tsx';
import { Ranges } from './Ranges.tsx';
import { useAsked } from './useAsked.ts';
import { Found } from './Found.tsx';
import { marksOf } from './marks.ts';
import { Mends } from './Mends.tsx';
import { Size } from './Size.tsx';
import { Stage } from './Stage.tsx';
import type { Board } from './useBoard.ts';
import type { Route } from './+types/route';

type Props = {
  board: Board;
  films: readonly CheckFilm[];
  weeded: readonly WeededPart[];
  job: Route.ComponentProps['loaderData']['job'];
  /** How much plain film the blade on the bench cuts in its life, µm. */
  bladeLifeUm: number | undefined;
};

/** A drawing with what is wrong with it, at the size and in the films that are chosen; and what mends it. */
export function CheckBoard({ board, films, weeded, job, bladeLifeUm }: Props) {
  const t = words.check;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const { artwork, widthUm, name, svg } = board.now!;
  const [mark, setMark] = useState<number>();
  // While the size is dragged the drawing follows at once, the judgement as soon as there is time.
  const judgedAt = useDeferredValue(widthUm);
  const layers = artwork.layers.map((layer) => ({ layer, film: board.filmOf(layer.hex) }));
  const keys = layers.map((l) => l.film.key).join(' ');
  const checks = useMemo(
    () => layers.map(({ layer, film }) => checkLayer(artwork, layer, film.needs, judgedAt, film.slow, weeded)),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the films are named by their keys
    [artwork, judgedAt, keys, weeded],
  );
  const judged = judge(
    artwork,
    layers.map(({ layer, film }) => ({ layer, film: film.needs })),
    judgedAt,
  );
  const marks = useMemo(() => marksOf(checks), [checks]);
  const [ground, setGround] = useState(job?.hex ?? '#e9e2d2');
  const ranges = layers.map(({ layer, film }) => seenRange(layer.hex, film.stack.opacity, film.shifts, ground));
  const [tapping, setTapping] = useState(false);
  const [strips, setStrips] = useState<string>();
  const waste = useAsked(strips !== undefined ? { waste: { artwork, widthUm } } : undefined, [artwork, widthUm])?.waste;
  const cutStrips = stripsOf(strips, waste, artwork.width / widthUm);
  const newFilms = job && changedFilms(job, board, layers);
  const resized = job && Math.abs(widthUm - job.drawing.widthUm) > 50;
  return (
    <div className="check-page">
      <Stage
        artwork={artwork}
        layers={layers.map(({ layer, film }, i) => ({
          ...layer,
          growth: film.needs.growth / (widthUm / artwork.width),
          range: ranges[i]!.hexes,
        }))}
        marks={marks}
        mark={mark}
        onMark={setMark}
        ground={ground}
        onGround={setGround}
        name={name}
        strips={cutStrips}
        onPlace={
          tapping
            ? (x, y) => {
                const layer = layerOfHole(artwork, x, y);
                if (!layer) return;
                setTapping(false);
                void board.mend({ do: 'fill one', layer, x, y });
              }
            : undefined
        }
      >
        <div className="actions">
          {job && (board.undo || resized || newFilms!.length > 0) && (
            <WriteForm what="use" encType="multipart/form-data">
              <input type="hidden" name="svg" value={svg} />
              {newFilms!.map((film) => (
                <input key={film} type="hidden" name="film" value={film} />
              ))}
              <input type="hidden" name="width" value={Math.round(widthUm)} />
              <Button type="submit" variant="contained">
                {board.undo ? t.use : t.keepSize(sayLength(widthUm, unit, style))}
              </Button>
            </WriteForm>
          )}
          <a
            className="plain-link"
            href={fileOf(artwork, widthUm, cutStrips)}
            download={`${name}.svg`}
            data-testid="export"
          >
            {t.file}
          </a>
          {!job && (
            <Button variant="text" onClick={board.clear}>
              {t.another}
            </Button>
          )}
        </div>
      </Stage>
      <div className="check-said">
        <div className="check-size">
          <Size widthUm={widthUm} judged={judged} onWidth={board.resize} />
        </div>
        <Found
          checks={checks}
          marks={marks}
          mark={mark}
          onMark={setMark}
          board={board}
          films={films}
          bladeLifeUm={bladeLifeUm}
        />
        {board.wrong && (
          <p className="notice bad" role="alert">
            {board.wrong}
          </p>
        )}
        <Notes notes={artwork.notes} />
        <Ranges layers={layers.map((l) => l.layer)} ranges={ranges} />
        <Pairs board={board} layers={layers} />
        <Lift board={board} layers={layers} checks={checks} />
        <Mends
          board={board}
          checks={checks}
          tapping={tapping}
          onTapping={setTapping}
          strips={strips}
          onStrips={setStrips}
          waste={waste}
        />
      </div>
    </div>
  );
}

/** Films of one's own that were chosen here for colours of a job, as a form sends them. */
const changedFilms = (
  job: NonNullable<Props['job']>,
  board: Board,
  layers: readonly { layer: { hex: string } }[],
): string[] =>
  layers.flatMap(({ layer }) => {
    const film = board.filmOf(layer.hex);
    const before = job.films.find((f) => f.hex === layer.hex)?.vinyl;
    return film.own && film.key !== before ? [`${layer.hex} ${film.key}`] : [];
  });

/** What the reader left out of the drawing, or did to it. */
const Notes = ({ notes }: { notes: readonly string[] }) =>
  notes.map((note) => (
    <p key={note} className="notice">
      {note}
    </p>
  ));

/** Lines through the waste of a layer as path data, in units of the drawing; undefined where none are shown. */
const stripsOf = (layer: string | undefined, waste: Record<string, WeedingLines> | undefined, unit: number) => {
  const lines = layer === undefined ? undefined : waste?.[layer]?.lines;
  const d = lines?.map(([[a, b], [c, e]]) => `M${a * unit} ${b * unit}L${c * unit} ${e * unit}`).join('');
  return layer !== undefined && d !== undefined ? { layer, d } : undefined;
};

/** The drawing as a file that says how large it is, with the lines through its waste where they are shown. */
const fileOf = (
  artwork: NonNullable<Board['now']>['artwork'],
  widthUm: number,
  strips: { layer: string; d: string } | undefined,
): string => {
  const layer = artwork.layers.find((l) => l.id === strips?.layer);
  const lines = layer && strips && { hex: layer.hex, d: strips.d };
  return `data:image/svg+xml;charset=utf-8,${encodeURIComponent(writeSvg(artwork.layers, artwork, widthUm, lines))}`;
};

import { cutMirrored } from '#core/vinyls/index.ts';
import {
  cutPaths,
  finestOf,
  layerSize,
  peelHints,
  someShapes,
  weedingLines,
  type ArtLayer,
  type Artwork,
  type Ring,
} from '#core/artwork/index.ts';
import {
  cornersOf,
  filmOn,
  loadsOf,
  partPaths,
  type Asked,
  standingEvents,
  type FilmPiece,
  type JobEvent,
  type LoadPart,
  type Plan,
  type Under,
} from '#core/job/index.ts';
import type { Vinyl } from '#work/vinyls/vinyls.ts';
import { artworkOf } from './artwork.ts';

/** What a piece of a job shows of a layer: the drawing of all, or its own name. µm a unit of that drawing. */
export type Shown = { hash: string; artwork: Artwork; art: ArtLayer; widthUm: number };

/** The drawings of a plan by their hash: the one of the design, and that of each name. @throws NotFound */
export async function artworksOf(plan: Pick<Plan, 'design' | 'pieces'>): Promise<Map<string, Artwork>> {
  const hashes = new Set([
    ...(plan.design ? [plan.design.artwork] : []),
    ...plan.pieces.flatMap((p) => (p.name ? [p.name.artwork] : [])),
  ]);
  return new Map(await Promise.all([...hashes].map(async (hash) => [hash, await artworkOf(hash)] as const)));
}

/** What a layer shows: one entry for all pieces, or one for each where they have names of their own. */
export function shownOf({ design, pieces }: Plan, path: string, artworks: ReadonlyMap<string, Artwork>): Shown[] {
  if (!design) return [];
  const shown = (hash: string, widthUm: number): Shown[] => {
    const artwork = artworks.get(hash);
    const art = artwork?.layers.find((l) => l.id === path);
    return artwork && art ? [{ hash, artwork, art, widthUm }] : [];
  };
  const named = pieces.some((p) => p.name);
  const own = pieces.flatMap((p) =>
    shown(p.name?.artwork ?? design.artwork, p.name ? p.name.share * design.widthUm : design.widthUm),
  );
  return named && own.length === pieces.length ? own : shown(design.artwork, design.widthUm);
}

/** What of the layers of a plan is cut by itself: each of several rounds, and what was lost and is cut again. */
export function partsOf(plan: Plan, events: readonly JobEvent[]) {
  const loads = loadsOf(plan, standingEvents(events)).flatMap((l) => l.parts);
  const planned = plan.loads.flatMap((l) => l.parts);
  return loads.flatMap((part) => {
    const layer = plan.layers.find((l) => l.id === part.layer);
    const rounds = planned.filter((p) => p.layer === part.layer);
    const again = !planned.includes(part);
    if (!layer || (!again && rounds.length === 1)) return [];
    return [{ layer, part, again, round: again ? undefined : { at: rounds.indexOf(part) + 1, of: rounds.length } }];
  });
}

/** Between two pieces that are cut again on one offcut, µm: room for a finger. Common practice, no source. */
const APART = 6_000;

/** Of what pieces show the pieces of film alone that were lost, close together; all of it where nothing more is said, or of another drawing. */
export const lostOnly = (shown: readonly Shown[], lost: LoadPart['shapes'], mostUm: number): Shown[] =>
  shown.map((s) => {
    if (!lost || lost.artwork !== s.hash) return s;
    const scale = s.widthUm / s.artwork.width;
    const some = someShapes(s.art, lost.ids, { gap: APART / scale, most: mostUm / scale });
    return some ? { ...s, artwork: some, art: some.layers[0]!, widthUm: some.width * scale } : s;
  });

/**
 * The film to trim for a layer, for all pieces of the job, with every line that is cut in it.
 * @param shown what the pieces show, see `shownOf`
 * @param under what lies under the blade
 */
export function filmFor(
  plan: Plan,
  layer: Plan['layers'][number] | undefined,
  shown: readonly Shown[],
  vinyl: Pick<Vinyl, 'behaviour'>,
  under: Under,
) {
  const copies = plan.pieces.map((_, i) => shown[shown.length === 1 ? 0 : i]!);
  const sizes = copies.map(({ artwork, art, widthUm }) => layerSize(artwork, art, widthUm));
  const cell = { width: Math.max(...sizes.map((s) => s.width)), height: Math.max(...sizes.map((s) => s.height)) };
  const { mat, rollUm, bond, leadUm, minLengthUm } = vinyl.behaviour;
  const asked: Asked = {
    design: cell,
    copies: copies.length,
    film: { mat, rollUm, bond, leadUm, minLengthUm },
    waste: { frame: layer?.frame, lines: layer?.lines, test: layer?.test, mark: layer?.mark ?? 'cheap' },
  };
  const laid = filmOn(asked, under);
  // Boxes of one size: what is smaller lies in the middle of its own.
  const film: FilmPiece = {
    ...laid,
    copies: laid.copies.map(({ x, y }, i) => ({
      x: x + Math.round((cell.width - sizes[i]!.width) / 2),
      y: y + Math.round((cell.height - sizes[i]!.height) / 2),
    })),
  };
  const mirrored = cutMirrored(vinyl.behaviour.cutFrom, plan.design!.mirrored);
  let made: ReturnType<typeof cutPaths>['paths'][] | undefined;
  /** The lines of each copy, made when somebody first needs them. */
  const designs = () =>
    (made ??= copies.map(
      ({ artwork, art, widthUm }) => cutPaths(artwork, art, { widthUm, margin: 0, mirrored }).paths,
    ));
  if (layer?.lines) {
    const rings = partPaths(designs(), { copies: film.copies }).map((p): Ring => p.points);
    // A mirrored outline turns the other way round: pieces are pieces either way.
    const turned = mirrored ? rings.map((ring) => ring.toReversed()) : rings;
    film.lines = weedingLines(
      film.mark ? [...turned, cornersOf(film.mark)] : turned,
      film.frame ?? { x: 0, y: 0, width: film.width, height: film.height },
    ).lines;
  }
  return { film, asked, paths: () => partPaths(designs(), film) };
}

/** How many holes and pieces a layer has on its film, and how long its lines are, µm, for all pieces of the job. */
export function sumsOf(plan: Pick<Plan, 'pieces'>, shown: readonly Shown[]) {
  const times = shown.length === 1 ? plan.pieces.length : 1;
  return {
    holes: times * shown.reduce((s, { art }) => s + art.holes, 0),
    pieces: times * shown.reduce((s, { art }) => s + art.pieces, 0),
    lengthUm: Math.round(
      times * shown.reduce((s, { art, artwork, widthUm }) => s + (art.length * widthUm) / artwork.width, 0),
    ),
  };
}

/** The thinnest line of film in what the pieces show, µm; infinite where nothing is narrow. */
const thinnest = (shown: readonly Shown[]): number =>
  Math.min(...shown.map(({ artwork, art, widthUm }) => finestOf(artwork, art, widthUm).line ?? Infinity));

/** A plan with what of its drawing the press asks for: where each layer lies, and how thin its thinnest line is as it is cut. */
export async function measured(plan: Plan): Promise<Plan> {
  if (!plan.design) return plan;
  const artworks = await artworksOf(plan);
  const { width, layers } = artworks.get(plan.design.artwork)!;
  const share = (v: number) => Math.round((v / width) * 1e5) / 1e5;
  return {
    ...plan,
    layers: plan.layers.map(({ thinUm: _, ...l }) => {
      const box = layers.find((a) => a.id === l.path)?.box;
      const there = box && box.width > 0 && box.height > 0;
      // Where nothing is narrow it is no thinner than it is wide.
      const thin = Math.min(
        thinnest(shownOf(plan, l.path, artworks)),
        there ? (box.width / width) * plan.design!.widthUm : Infinity,
      );
      return {
        ...l,
        ...(there
          ? { box: { x: share(box.x), y: share(box.y), width: share(box.width), height: share(box.height) } }
          : {}),
        ...(Number.isFinite(thin) ? { thinUm: Math.max(1, Math.round(thin)) } : {}),
      };
    }),
  };
}

/** A joint narrower than so many least lines is peeled with care. Judgement, no source. */
const CARE = 2;

/**
 * What of a layer a drawing on a page needs: outlines, the box round them, µm a unit, and which way to pull waste where; each copy its own,
 * or one for all.
 * @param line the least line of its vinyl, µm
 */
export const shapesOf = (shown: readonly Shown[], line: number) =>
  shown.map(({ artwork, art, widthUm }) => {
    const scale = widthUm / artwork.width;
    return { d: art.d, box: art.box, scale, hints: peelHints(art, (CARE * line) / scale) };
  });

import { Clipper, ClipType, EndType, FillRule, JoinType, type Paths64 } from 'clipper2-ts';
import svgpath from 'svgpath';
import { crossings, flatten, pathOfRings, toRings, writeSvg } from '../artwork/index.ts';
import { drawText, type Face } from './font.ts';

const letteringDefaults = {
  /** Units to the em of what is drawn: fine enough for what is cut. */
  em: 100_000,
  /** Rows in which two letters are looked at, to push them together. */
  rows: 240,
  /** They are pushed further so often, each time by half the width they must join with. */
  pushes: 8,
  /** Gaps narrower than this share of a joint are closed where letters are joined: a film's least gap is half of its least line. */
  sliver: 0.55,
  /** They are joined for a line that much wider than the least: where two letters meet twice, one of the joints is the thinner one. */
  ample: 1.25,
};

/** A text as outlines: SVG path data in units, and what of it has no letter. */
export type Lettering = { d: string; width: number; height: number; outlines: number; missing: string[] };

const scaleOf = () => letteringDefaults.em / 1000;
const union = (paths: Paths64) => Clipper.booleanOp(ClipType.Union, paths, null, FillRule.NonZero);
const outlinesOf = (paths: Paths64) => paths.filter((p) => Clipper.area(p) > 0).length;

/**
 * A text in a face, as outlines. Letters that overlap, as those of a script, are one.
 *
 * @param join pushes letters together until they hold each other by so much, units; they stand as the font wants them without it
 * @throws RangeError where nothing of the text can be drawn
 */
export function lettering(face: Face, text: string, join?: number): Lettering {
  const { letters, missing } = drawText(face, text);
  let at = 0;
  const placed: Paths64[] = [];
  for (const { d, advance, says } of letters) {
    const lines = flatten(svgpath(d).scale(scaleOf()).translate(at, 0).toString(), scaleOf() / 2);
    let paths = union(
      lines
        .filter((l) => l.points.length > 2)
        .map((l) => l.points.map((p) => ({ x: Math.round(p.x), y: Math.round(p.y) }))),
    );
    const before = placed.at(-1);
    // Over a space nothing is joined.
    if (join !== undefined && before && paths.length > 0 && says.trim() !== '') {
      const by = pushed(before, paths, join);
      at += by;
      paths = Clipper.translatePaths(paths, by, 0);
    }
    at += advance * scaleOf();
    if (paths.length > 0) placed.push(paths);
    else if (placed.length > 0) placed.push([]);
  }
  let all = union(placed.flat());
  // Where letters meet, slivers are left between them that no hand weeds: what is narrower than half of a joint is closed.
  if (join !== undefined) all = closed(all, letteringDefaults.sliver * join);
  if (all.length === 0) throw new RangeError(`no letter of "${text}" can be drawn`);
  const box = Clipper.getBoundsPaths(all);
  return {
    d: pathOfRings(toRings(Clipper.translatePaths(all, -box.left, -box.top))),
    width: box.right - box.left,
    height: box.bottom - box.top,
    outlines: outlinesOf(all),
    missing,
  };
}

/** Grown by half a width and shrunk again: gaps narrower than it are gone (closing, Serra, Image Analysis and Mathematical Morphology, 1982). */
function closed(paths: Paths64, width: number): Paths64 {
  const inflate = (p: Paths64, by: number) =>
    Clipper.inflatePaths(p, by, JoinType.Round, EndType.Polygon, 2, Math.max(1, width / 60));
  return inflate(inflate(paths, width / 2), -width / 2);
}

/** How far a letter moves so that it holds the one before it by some width: to the left where it stands apart. Whole units. */
function pushed(before: Paths64, letter: Paths64, join: number): number {
  const [a, b] = [Clipper.getBoundsPaths(before), Clipper.getBoundsPaths(letter)];
  const [top, bottom] = [Math.max(a.top, b.top), Math.min(a.bottom, b.bottom)];
  if (bottom <= top) return 0;
  const [left, right] = [toRings(before), toRings(letter)];
  let gap = Infinity;
  for (let row = 0; row < letteringDefaults.rows; row++) {
    const y = top + ((row + 0.5) / letteringDefaults.rows) * (bottom - top) + 0.137;
    const ends = left.flatMap((r) => crossings(r, y));
    const begins = right.flatMap((r) => crossings(r, y));
    if (ends.length > 0 && begins.length > 0) gap = Math.min(gap, Math.min(...begins) - Math.max(...ends));
  }
  if (!Number.isFinite(gap)) return 0;
  // Those that hold each other already stay where the font has them.
  const strong = (paths: Paths64) =>
    outlinesOf(Clipper.inflatePaths(union(paths), -join / 2, JoinType.Round, EndType.Polygon, 2, join / 40));
  const apart = strong(before) + strong(letter);
  const holds = (by: number) => strong([...before, ...Clipper.translatePaths(letter, by, 0)]) < apart;
  if (holds(0)) return 0;
  let by = Math.min(0, -gap);
  for (let turn = 0; turn < letteringDefaults.pushes; turn++) {
    by -= join / 2;
    if (holds(Math.round(by))) break;
  }
  return Math.round(by);
}

/** How wide a text is when it is as large as its box allows, µm. */
function fitted(
  { width, height }: Pick<Lettering, 'width' | 'height'>,
  box: { width: number; height: number },
): number {
  return Math.round(Math.min(box.width, (box.height * width) / height));
}

/** A text as a drawing in one colour that says how large it is. */
export const letteringSvg = ({ d, width, height }: Lettering, hex: string, widthUm: number): string =>
  writeSvg([{ hex, d }], { width, height }, widthUm);

/** One of a list, in its box: as wide as it is to be, µm. */
export type Lettered = Lettering & { says: string; widthUm: number };

/**
 * A list of texts in boxes of one size: each as large as its box allows, or all in letters of one size, which the longest decides.
 * @param join the least line of the vinyl, µm, where letters are to hold each other
 * @returns each text with its outlines, or with what is wrong with it
 */
export function letterAll(
  face: Face,
  texts: readonly string[],
  box: { width: number; height: number },
  { oneSize, join }: { oneSize: boolean; join?: number | undefined },
): (Lettered | { says: string; wrong: string })[] {
  const drawn = texts.map((says) => {
    try {
      let one = lettering(face, says);
      // How wide a line is in units is known once the size is: twice is enough.
      if (join !== undefined)
        for (let turn = 0; turn < 2; turn++)
          one = lettering(face, says, (letteringDefaults.ample * join * one.width) / fitted(one, box));
      return { says, ...one };
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      return { says, wrong: 'This face has none of its letters.' };
    }
  });
  const least = Math.min(...drawn.map((t) => ('d' in t ? fitted(t, box) / t.width : Infinity)));
  return drawn.map((t) => ('d' in t ? { ...t, widthUm: oneSize ? Math.round(least * t.width) : fitted(t, box) } : t));
}

import { Clipper, ClipType, FillRule, type Path64, type Paths64, type Rect64 } from 'clipper2-ts';
import { crossingCount, edgesOfPen, segmentsOf, sweepCost, type Segments } from './crowding.ts';
import { dashCount, dashed, flatten, growth, moved, stroked, type Line, type Matrix } from './geometry.ts';
import { ArtworkError, artworkLimits } from './limits.ts';
import { layerOf } from './layerOf.ts';
import type { Artwork } from './artwork.ts';
import { paintings, type Painted } from './paint.ts';
import { readTree } from './svgTree.ts';

const artworkDefaults = {
  /** Units along the longer side of a drawing: what is measured is measured at this one size, and scales from there. */
  side: 1_000_000,
  /** How far a chord may leave its curve, units: 0.01 mm on a design 300 mm wide. */
  chord: 40,
  /** What counts as the same point once shapes are joined, units. */
  same: 8,
  /** A dash with its gap shorter than this is drawn as a whole line, units: 0.3 mm on a design 300 mm wide. No blade cuts it. */
  dash: 1_000,
  /** Points of shapes in other colours that one shape is laid on, in all: whether they touch is looked at for each. */
  laid: 2_000_000,
};

/** How much of its limits a drawing has used up: points, crossings and dashes are counted before anything is joined. */
class Budget {
  private points = 0;
  private crossings = 0;
  private sweep = 0;
  private dashes = 0;
  /** Whether lines were drawn whole whose dashes are too fine, or too many. */
  solid = false;

  addPoints(n: number): void {
    this.points += n;
    if (this.points > artworkLimits.points)
      throw new ArtworkError(
        `This drawing is too detailed: more than ${artworkLimits.points} points. Simplify its lines first`,
      );
  }

  /** Lines that are to be joined to outlines. */
  addLines(segments: Segments): void {
    this.sweep += sweepCost(segments);
    this.crossings += crossingCount(segments, artworkLimits.crossings - this.crossings);
    if (this.crossings > artworkLimits.crossings || this.sweep > artworkLimits.sweep)
      throw new ArtworkError(
        'Too many lines of this drawing cross each other or lie too close together. Join its shapes first, or leave out the finest lines',
      );
  }

  /** Whether a line may be cut into so many dashes, each as long as said on the whole, units. */
  takesDashes(n: number, each: number): boolean {
    const fine = each < artworkDefaults.dash || this.dashes + n > artworkLimits.dashes;
    if (fine) this.solid = true;
    else this.dashes += n;
    return !fine;
  }
}

const asLines = (paths: Paths64): Line[] => paths.map((points) => ({ points, closed: true }));
const pointsIn = (lines: readonly Line[]) => lines.reduce((n, l) => n + l.points.length, 0);

/** The outlines a drawing shows of a shape, in units. */
function areaOf({ d, matrix, rule, pen }: Painted, toUnits: Matrix, budget: Budget): Paths64 {
  const scale = growth(matrix) * toUnits[0];
  if (!(scale > 0)) return [];
  const lines = flatten(d, artworkDefaults.chord / scale);
  budget.addPoints(pointsIn(lines));
  // Pens draw in a shape's own units, before anything stretches it.
  const place = (p: { x: number; y: number }, by = 1) => {
    const q = moved(toUnits, moved(matrix, { x: p.x / by, y: p.y / by }));
    return { x: Math.round(q.x), y: Math.round(q.y) };
  };
  if (!pen) {
    const placed = lines.filter((l) => l.points.length > 2).map((l) => l.points.map((p) => place(p)));
    budget.addLines(segmentsOf(asLines(placed), true));
    return Clipper.union(placed, rule === 'evenodd' ? FillRule.EvenOdd : FillRule.NonZero);
  }
  const large = (l: Line): Line => ({
    closed: l.closed,
    points: l.points.map(({ x, y }) => ({ x: x * scale, y: y * scale })),
  });
  const cycle = pen.dashes.reduce((sum, n) => sum + n, 0);
  const dashes =
    pen.dashes.length > 0 && budget.takesDashes(dashCount(lines, pen.dashes), (2 * cycle * scale) / pen.dashes.length);
  const drawn = dashes ? dashed(lines, pen.dashes, pen.offset) : lines;
  if (dashes) budget.addPoints(pointsIn(drawn));
  budget.addLines(edgesOfPen(segmentsOf(drawn, false), pen.width));
  const covered = stroked(drawn.map(large), { ...pen, width: pen.width * scale });
  return Clipper.union(
    covered.map((path) => path.map((p) => place(p, scale))),
    FillRule.NonZero,
  );
}

/** The box round what shapes show, by their points and pens: a first look, before anything is measured. */
function roughBox(shapes: readonly Painted[], tolerance = Infinity) {
  const known = new Map<string, Line[]>();
  const linesOf = (d: string, fine: number) => {
    // What `use` shows many times is taken apart once.
    const key = `${fine} ${d}`;
    const lines = known.get(key) ?? flatten(d, fine);
    if (known.size < 500) known.set(key, lines);
    return lines;
  };
  const budget = new Budget();
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { d, matrix, pen } of shapes) {
    const scale = growth(matrix);
    const wide = pen ? (pen.width / 2) * scale * Math.max(1, pen.join === 'miter' ? 1.5 : 1) : 0;
    const lines = linesOf(d, tolerance / scale);
    budget.addPoints(pointsIn(lines));
    for (const { points } of lines)
      for (const p of points) {
        const q = moved(matrix, p);
        left = Math.min(left, q.x - wide);
        top = Math.min(top, q.y - wide);
        right = Math.max(right, q.x + wide);
        bottom = Math.max(bottom, q.y + wide);
      }
  }
  return { left, top, right, bottom };
}

/** A layer that is being painted: its shapes, each with the box round it. */
type Open = { hex: string; shapes: { paths: Paths64; box: Rect64 }[]; keys: Set<string> };
const box = (paths: Paths64) => Clipper.getBoundsPaths(paths);
const apart = (a: Rect64, b: Rect64) => a.right < b.left || b.right < a.left || a.bottom < b.top || b.bottom < a.top;
/** Whether a shape covers anything of a layer. */
const meets = ({ shapes }: Open, paths: Paths64, at: Rect64, laid: { points: number }) =>
  shapes.some((s) => {
    if (apart(s.box, at)) return false;
    laid.points += pathPoints(s.paths) + pathPoints(paths);
    if (laid.points > artworkDefaults.laid)
      throw new ArtworkError(
        'Too many shapes of this drawing lie over shapes of other colours. Join the shapes of each colour first',
      );
    return Clipper.areaPaths(Clipper.intersect(s.paths, paths, FillRule.NonZero)) > 50;
  });
const pathPoints = (paths: Paths64) => paths.reduce((n, p) => n + p.length, 0);

/**
 * Reads an SVG drawing: every colour a layer, joined to outlines, measured, its narrow places found. A colour that comes back above another
 * one joins its first layer where nothing between is covered by it; else it is a layer of its own.
 *
 * @param step told how far it is, 0 to 1; may throw to stop
 * @throws ArtworkError with one line that says what is wrong with the file
 * @example readArtwork('<svg viewBox="0 0 10 10"><path fill="#c00" d="M0 0h10v5H0z"/></svg>').layers[0].pieces // 1
 */
export function readArtwork(svg: string, step: (share: number) => void = () => undefined): Artwork {
  const tree = readTree(svg);
  const { shapes, notes, width, height } = paintings(tree);
  const first = roughBox(shapes);
  const rough = roughBox(shapes, Math.max(first.right - first.left, first.bottom - first.top) / 200);
  const longer = Math.max(rough.right - rough.left, rough.bottom - rough.top);
  if (shapes.length === 0 || !(longer > 0) || !Number.isFinite(longer))
    throw new ArtworkError(
      tree.hasImage
        ? 'There are only pixels in this drawing: it has no outlines to cut. Trace it first'
        : tree.hasText
          ? 'There is only text in this drawing: turn its letters into outlines first'
          : 'There is nothing in this drawing that can be cut',
    );
  const k = artworkDefaults.side / longer;
  const toUnits: Matrix = [k, 0, 0, k, -rough.left * k, -rough.top * k];
  const open: Open[] = [];
  let twice = 0;
  const budget = new Budget();
  const laid = { points: 0 };
  shapes.forEach((shape, i) => {
    step((0.5 * i) / shapes.length);
    const paths = areaOf(shape, toUnits, budget);
    if (paths.length > 0 && !lay(open, shape.hex, paths, laid)) twice++;
    if (open.length > artworkLimits.layers)
      throw new ArtworkError(
        `This drawing has more than ${artworkLimits.layers} colours, and a job has as many layers at most. Reduce them first`,
      );
  });
  if (budget.solid) notes.push('Dashes too fine to cut are drawn as a whole line.');
  const whole = open
    .map((l) => ({
      hex: l.hex,
      paths: joined(
        l.shapes.flatMap((s) => s.paths),
        budget,
      ),
    }))
    .filter((l) => l.paths.length > 0);
  if (whole.length === 0) throw new ArtworkError('There is nothing in this drawing that can be cut');
  const all = box(whole.flatMap((l) => l.paths));
  const exact = artworkDefaults.side / Math.max(all.right - all.left, all.bottom - all.top);
  const layers = whole.map(({ hex, paths }, i) => {
    step(0.5 + (0.5 * i) / whole.length);
    return layerOf(`l${i + 1}`, hex, Clipper.scalePaths(Clipper.translatePaths(paths, -all.left, -all.top), exact));
  });
  step(1);
  // The file says how large its page is in pixels of 1/96 in; what it shows is that large, too.
  const says =
    width !== undefined && height !== undefined && /(mm|cm|in|pt|pc|px|q)\s*$/i.test(tree.root.attributes.width ?? '');
  return {
    format: 'versipel-artwork/1',
    width: Math.round((all.right - all.left) * exact),
    height: Math.round((all.bottom - all.top) * exact),
    naturalWidthUm: says ? Math.round(((all.right - all.left) / k / 96) * 25_400) : undefined,
    layers,
    notes:
      twice === 0
        ? notes
        : [
            ...notes,
            `${twice === 1 ? 'One shape lies' : `${twice} shapes lie`} twice in the same place: ${twice === 1 ? 'it is' : 'they are'} cut once.`,
          ],
  };
}

/** Two shapes with one key are one: as large in the same place. */
const keyOf = (paths: Paths64, at: Rect64): string =>
  [at.left, at.top, at.right, at.bottom, Clipper.areaPaths(paths)].join(' ');

/** Puts a shape onto the layers painted so far; false where the same one lies there already. */
function lay(open: Open[], hex: string, paths: Paths64, laid: { points: number }): boolean {
  const at = box(paths);
  for (let i = open.length - 1; i >= 0; i--) {
    const layer = open[i]!;
    if (layer.hex === hex) {
      const key = keyOf(paths, at);
      if (layer.keys.has(key)) return false;
      layer.keys.add(key);
      layer.shapes.push({ paths, box: at });
      return true;
    }
    if (meets(layer, paths, at, laid)) break;
  }
  open.push({ hex, shapes: [{ paths, box: at }], keys: new Set([keyOf(paths, at)]) });
  return true;
}

/** Joined to outlines without doubles, specks and points nobody sees. */
function joined(paths: Paths64, budget: Budget): Paths64 {
  const { same } = artworkDefaults;
  budget.addLines(
    segmentsOf(
      paths.map((points) => ({ points, closed: true })),
      true,
    ),
  );
  const union = Clipper.booleanOp(ClipType.Union, paths, null, FillRule.NonZero);
  return union
    .map((p: Path64) => Clipper.simplifyPath(p, same, true))
    .filter((p: Path64) => p.length > 2 && Math.abs(Clipper.area(p)) > same * same * 10);
}

import { Clipper, EndType, JoinType } from 'clipper2-ts';
import { boxOf, ringArea, toPaths, toRings, type Ring } from './rings.ts';

export const weedingLineDefaults = {
  /** A strip of waste no wider than this is held by a hand, µm. Judgement, no source. */
  strip: 80_000,
  /** A line ends so far from film that stays, µm: what is left of the waste tears, and no blade touches the design. */
  clear: 400,
  /** Lines are looked for so far apart, µm. */
  step: 1_000,
  /** To lift the blade and set it down again costs as much as so much line, µm. Judgement, no source. */
  stroke: 8_000,
  /** A stretch shorter than this is not worth a stroke, µm. */
  shortest: 3_000,
};

type Point = readonly [x: number, y: number];
/** A straight line through waste, µm. */
export type WasteLine = readonly [from: Point, to: Point];
export type WeedingLines = {
  lines: WasteLine[];
  /** How much more is cut, µm. */
  lengthUm: number;
  /** Strips the waste falls into, and how wide the widest is, µm. */
  strips: number;
  widest: number;
};

/** Rows over some outlines: the stretches of waste in each. */
type Rows = { waste: [number, number][][]; cost: number[] };

/**
 * Lines that cut the waste round and between outlines into strips a hand can hold, laid where they cost least: along or across, whichever
 * is cheaper. No line comes near film that stays. Waste inside a piece is only cut where it is wider than a strip itself.
 *
 * The places are found by dynamic programming over rows a millimetre apart: a row costs the length of waste in it and a little for each
 * stroke, and no two lines, and no line and edge, lie further apart than a strip (Bellman, Dynamic Programming, 1957).
 *
 * @param rings every outline on the film, µm; pieces with positive area, holes with negative
 * @param area what is weeded: the frame, or the film
 * @returns no lines where a hand holds the waste as it is
 */
export function weedingLines(
  rings: readonly Ring[],
  area: { x: number; y: number; width: number; height: number },
  strip = weedingLineDefaults.strip,
): WeedingLines {
  const { clear } = weedingLineDefaults;
  const grown = toRings(Clipper.inflatePaths(toPaths(rings), clear, JoinType.Round, EndType.Polygon, 2, 50));
  const flat = (r: Ring): Ring => r.map(([x, y]) => [y, x] as const).reverse();
  const across = laid(grown, area, strip);
  const along = laid(grown.map(flat), { x: area.y, y: area.x, width: area.height, height: area.width }, strip);
  // A film no wider than a strip either way is one strip itself.
  const turn = along.lines.length === 0 || (across.lines.length > 0 && along.cost < across.cost);
  const best = turn ? along : across;
  const lines = turn
    ? best.lines.map(([[a, b], [c, d]]): WasteLine => [
        [b, a],
        [d, c],
      ])
    : best.lines;
  return {
    lines,
    lengthUm: Math.round(lines.reduce((s, [[a, b], [c, d]]) => s + Math.hypot(c - a, d - b), 0)),
    strips: best.strips,
    widest: best.widest,
  };
}

/** Lines from left to right over an area, where its height is more than a strip. */
function laid(rings: readonly Ring[], area: { x: number; y: number; width: number; height: number }, strip: number) {
  const { step } = weedingLineDefaults;
  const count = Math.floor(area.height / step);
  const most = Math.max(1, Math.floor(strip / step));
  if (count <= most) return { lines: [] as WasteLine[], cost: 0, strips: 1, widest: area.height };
  const { waste, cost } = rowsOf(rings, area, count, strip);
  // The least cost of lines up to a row with a line in it; row 0 and the last are the edges, where nothing is cut.
  const total = new Float64Array(count + 1).fill(Infinity);
  const from = new Int32Array(count + 1);
  total[0] = 0;
  for (let row = 1; row <= count; row++)
    for (let before = Math.max(0, row - most); before < row; before++) {
      const sum = total[before]! + (row === count ? 0 : cost[row]!);
      // Of two that cost the same, the one with wider strips: it is found first.
      if (sum < total[row]!) [total[row], from[row]] = [sum, before];
    }
  const rows: number[] = [];
  for (let row = from[count]!; row > 0; row = from[row]!) rows.unshift(row);
  const edges = [0, ...rows, count];
  return {
    lines: rows.flatMap((row) =>
      waste[row]!.map(([a, b]): WasteLine => [
        [Math.round(a), Math.round(area.y + row * step)],
        [Math.round(b), Math.round(area.y + row * step)],
      ]),
    ),
    cost: total[count]!,
    strips: rows.length + 1,
    widest: Math.max(...edges.slice(1).map((e, i) => (e - edges[i]!) * step)),
  };
}

/** What each row crosses: waste outside of every piece, and in holes that are wider than a strip. */
function rowsOf(
  rings: readonly Ring[],
  area: { x: number; y: number; width: number; height: number },
  count: number,
  strip: number,
): Rows {
  const { step, stroke, shortest } = weedingLineDefaults;
  const crossings: { x: number; ring: number }[][] = Array.from({ length: count + 1 }, () => []);
  const holes = rings.map((ring) => ringArea(ring) < 0);
  const large = rings.map((ring, i) => {
    const { top, bottom } = boxOf([ring]);
    return holes[i]! && bottom - top > strip;
  });
  rings.forEach((ring, r) => {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const [[ax, ay], [bx, by]] = [ring[j]!, ring[i]!];
      const [low, high] = [Math.min(ay, by), Math.max(ay, by)];
      for (let row = Math.max(0, Math.ceil((low - area.y) / step)); row <= count; row++) {
        const y = area.y + row * step;
        // Half open: a corner on a row counts once.
        if (y >= high) break;
        crossings[row]!.push({ x: ax + ((y - ay) / (by - ay)) * (bx - ax), ring: r });
      }
    }
  });
  const waste = crossings.map((at) => {
    at.sort((a, b) => a.x - b.x);
    const inside = new Set<number>();
    const free: [number, number][] = [];
    let since: number | undefined = area.x;
    const isWaste = () => {
      const around = [...inside];
      const film = around.filter((r) => !holes[r]).length;
      const open = around.filter((r) => holes[r]);
      return film === open.length && (open.length === 0 || open.some((r) => large[r]));
    };
    for (const { x, ring } of at) {
      if (since !== undefined && x - since >= shortest) free.push([since, x]);
      if (!inside.delete(ring)) inside.add(ring);
      since = isWaste() ? x : undefined;
    }
    const end = area.x + area.width;
    if (since !== undefined && end - since >= shortest) free.push([since, end]);
    return free;
  });
  return { waste, cost: waste.map((free) => free.reduce((s, [a, b]) => s + b - a + stroke, 0)) };
}

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { Clipper, ClipType, EndType, FillRule, JoinType, type Paths64 } from 'clipper2-ts';
import { z } from 'zod';
import { checkLayer } from '#core/artwork/check.ts';
import { smallestUm, troubleFreeUm, type FilmNeeds } from '#core/artwork/faults.ts';
import { layerOf } from '#core/artwork/layerOf.ts';
import { leastOutline, outlineDefaults, scaled } from '#core/artwork/outline.ts';
import { readArtwork } from '#core/artwork/readArtwork.ts';
import { ringsOfPath, toPaths } from '#core/artwork/rings.ts';
import { seededRandom } from '#core/stats/index.ts';
import { wavyDiscs } from './worstDrawings.ts';

/**
 * What checking a drawing costs, each against work of the offsetting library on the same outlines in the same run: the full check against one
 * bare union with two offsets, another size against the full check, the thinnest outline against one round offset as wide as the answer.
 */
export const casesSchema = z.strictObject({
  format: z.literal('versipel-artwork-cases/1'),
  repeats: z.int().min(1).max(50),
  widthUm: z.int().min(10_000).max(3_000_000),
  drawings: z.array(z.strictObject({ name: z.string(), svg: z.string() })).min(1),
});
type Cases = z.infer<typeof casesSchema>;

/** Blobs with a hole each, in rows, about so many segments in all. */
export function blobs(segments: number, seed: number): string {
  const random = seededRandom(seed);
  const each = 100;
  const count = Math.ceil(segments / (2 * each));
  const across = Math.ceil(Math.sqrt(count));
  let d = '';
  for (let i = 0; i < count; i++) {
    const [cx, cy] = [(i % across) * 10 + 5, Math.floor(i / across) * 10 + 5];
    const [wave, size] = [2 + Math.floor(4 * random.uniform()), 3.6 + 0.8 * random.uniform()];
    for (const [scale, turn] of [
      [1, 1],
      [0.45, -1],
    ] as const) {
      const points = Array.from({ length: each }, (_, k) => {
        const angle = (turn * 2 * Math.PI * k) / each;
        const r = size * scale * (1 + 0.12 * Math.sin(wave * angle));
        return `${(cx + r * Math.cos(angle)).toFixed(3)} ${(cy + r * Math.sin(angle)).toFixed(3)}`;
      });
      d += `M${points.join('L')}Z`;
    }
  }
  const side = across * 10;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${side} ${side}"><path fill="#204080" d="${d}"/></svg>`;
}

export const makeCases = (seed: number, each: number): Cases => ({
  format: 'versipel-artwork-cases/1',
  repeats: each,
  widthUm: 250_000,
  drawings: [
    ...[5_000, 50_000].map((n) => ({ name: `${n} segments`, svg: blobs(n, seed) })),
    ...[100, 400].map((n) => ({ name: `${n} wavy discs`, svg: wavyDiscs(n) })),
  ],
});

/** Every SVG file of a folder as cases. */
export const casesOfFolder = (folder: string): Cases => ({
  ...makeCases(1, 5),
  drawings: readdirSync(folder)
    .filter((f) => f.endsWith('.svg'))
    .sort()
    .map((name) => ({ name, svg: readFileSync(join(folder, name), 'utf8') })),
});

export type Row = {
  name: string;
  segments: number;
  /** ms, medians. */
  check: number;
  bare: number;
  checkRatio: number;
  resize: number;
  resizeRatio: number;
  outline: number;
  offset: number;
  outlineRatio: number;
  /** Heap that what was checked keeps once it is swept, against the parsed outlines themselves. */
  memoryRatio: number;
};
export type Groups = Row[];

const film: FilmNeeds = { line: 1000, gap: 500, growth: 0 };
const middle = (list: number[]) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)]!;
function timed(repeats: number, work: () => unknown): number {
  const times: number[] = [];
  for (let i = 0; i <= repeats; i++) {
    const from = performance.now();
    work();
    if (i > 0) times.push(performance.now() - from);
  }
  return middle(times);
}

setFlagsFromString('--expose-gc');
const sweep = runInNewContext('gc') as () => void;
/** What some work makes, and how much heap that keeps once everything else is swept, bytes. */
function swept<T>(work: () => T): [T, number] {
  sweep();
  const before = process.memoryUsage().heapUsed;
  const made = work();
  sweep();
  return [made, Math.max(1, process.memoryUsage().heapUsed - before)];
}

export function run({ drawings, repeats, widthUm }: Cases): Groups {
  return drawings.map(({ name, svg }) => {
    const drawing = readArtwork(svg);
    const whole = drawing.layers.map((l) => ringsOfPath(l.d));
    const segments = whole.flat().reduce((n, ring) => n + ring.length, 0);
    const paths: Paths64[] = whole.map(toPaths);
    const um = widthUm / drawing.width;
    const arc = outlineDefaults.arc / um;
    const union = (p: Paths64) => Clipper.booleanOp(ClipType.Union, p, null, FillRule.NonZero);
    const check = timed(repeats, () => {
      const layers = paths.map((p, i) => layerOf(`l${i}`, '#204080', union(p)));
      const judged = layers.map((layer) => ({ layer, film }));
      return [
        layers.map((layer) => checkLayer(drawing, layer, film, widthUm)),
        troubleFreeUm(drawing, judged),
        smallestUm(drawing, judged),
      ];
    });
    const bare = timed(repeats, () =>
      paths.map((p) => {
        const u = union(p);
        return [500, -500].map((by) => Clipper.inflatePaths(u, by / um, JoinType.Round, EndType.Polygon, 2, arc));
      }),
    );
    const judged = drawing.layers.map((layer) => ({ layer, film }));
    const resize = timed(repeats, () => [
      drawing.layers.map((layer) => checkLayer(drawing, layer, film, 0.9 * widthUm)),
      troubleFreeUm(drawing, judged),
    ]);
    const sized = whole.map((rings) => scaled(rings, um));
    let radius = 0;
    const outline = timed(repeats, () => {
      for (const rings of sized) radius = Math.max(radius, leastOutline(rings, film.line).radius);
    });
    const offset = timed(repeats, () =>
      sized.map((rings) =>
        Clipper.inflatePaths(
          toPaths(rings),
          Math.max(1, radius),
          JoinType.Round,
          EndType.Polygon,
          2,
          outlineDefaults.arc,
        ),
      ),
    );
    const [parsed, parsedBytes] = swept(() => whole.map(toPaths));
    const [kept, keptBytes] = swept(() => parsed.map((p, i) => layerOf(`l${i}`, '#204080', union(p))));
    const round = (n: number) => Number(n.toFixed(3));
    return {
      name: kept.length > 0 ? name : '',
      segments,
      check: round(check),
      bare: round(bare),
      checkRatio: round(check / bare),
      resize: round(resize),
      resizeRatio: round(resize / check),
      outline: round(outline),
      offset: round(offset),
      outlineRatio: round(outline / offset),
      memoryRatio: round(keptBytes / parsedBytes),
    };
  });
}

export const table = (rows: Groups): string =>
  [
    '| drawing | segments | check ms | union + 2 offsets ms | ratio | other size ms | ratio | outline ms | offset ms | ratio | memory ratio |',
    '| --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |',
    ...rows.map(
      (r) =>
        `| ${r.name} | ${r.segments} | ${r.check} | ${r.bare} | ${r.checkRatio} | ${r.resize} | ${r.resizeRatio} | ${r.outline} | ${r.offset} | ${r.outlineRatio} | ${r.memoryRatio} |`,
    ),
  ].join('\n');

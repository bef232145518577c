import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { filmShapes, nearestShape, someShapes } from './filmShapes.ts';
import { readArtwork } from './readArtwork.ts';

const svg = (body: string) => `<svg viewBox="0 0 100 100" xmlns="http://www.w3.org/2000/svg">${body}</svg>`;
const read = (body: string) => readArtwork(svg(`<path fill="#204080" fill-rule="evenodd" d="${body}"/>`));
// A square with a hole and an island in it, and two small squares far apart.
const drawing = read('M0 0h40v40h-40zM10 10v20h20v-20zM18 18h4v4h-4zM90 0h3v3h-3zM0 90h3v3h-3z');
const [layer] = drawing.layers;
const um = 100_000 / drawing.width;

describe('pieces of film of a layer', () => {
  test('a piece is its outside with its holes; an island in a hole is a piece of its own', () => {
    const shapes = filmShapes(layer!);
    expect(shapes).toHaveLength(layer!.pieces);
    expect(shapes.map((s) => s.rings.length).sort()).toEqual([1, 1, 1, 2]);
    expect(new Set(shapes.map((s) => s.id)).size).toBe(4);
    // The same ids whenever the same drawing is read.
    expect(
      filmShapes(read('M0 0h40v40h-40zM10 10v20h20v-20zM18 18h4v4h-4zM90 0h3v3h-3zM0 90h3v3h-3z').layers[0]!).map(
        (s) => s.id,
      ),
    ).toEqual(shapes.map((s) => s.id));
  });
  test('a tap means the piece it lies in, the island and not what is round it; beside all of them the nearest', () => {
    const at = (x: number, y: number) => {
      const hit = nearestShape(filmShapes(layer!), x * 1e4 * (drawing.width / 1e6), y * 1e4 * (drawing.width / 1e6))!;
      return Math.round((hit.box.width * 100) / drawing.width);
    };
    const side = (mm: number) => Math.round((mm * 100) / 93);
    expect(at(5, 5)).toBe(side(40));
    expect(at(20 / 0.93, 20 / 0.93)).toBe(side(4));
    expect(at(80, 3)).toBe(side(3));
    expect(nearestShape([], 0, 0)).toBeUndefined();
  });
  test('some of them lie close together, each as large as it was', () => {
    const small = filmShapes(layer!).filter((s) => s.box.width < 0.05 * drawing.width);
    const far = small.filter((s) => s.rings.length === 1).map((s) => s.id);
    const some = someShapes(layer!, far, { gap: 6_000 / um, most: 300_000 / um })!;
    expect(some.layers[0]!.pieces).toBe(3);
    // 3, 3 and 4 mm wide, 6 mm apart: no wider and higher than two of them in a row, however they are laid.
    expect(some.width * um).toBeLessThan(25_000);
    expect(some.height * um).toBeLessThan(25_000);
    const areas = (l: { area: number }) => l.area * um * um;
    const wanted = small.reduce((s, { box }) => s + box.width * box.height * um * um, 0);
    expect(areas(some.layers[0]!) / wanted).toBeCloseTo(1, 2);
    expect(someShapes(layer!, ['p999'], { gap: 1, most: 1e6 })).toBeUndefined();
  });
  test('any of them, packed: as many, none on another, no nearer than the gap', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 2, max: 9 }), fc.integer({ min: 2, max: 9 })), {
          minLength: 1,
          maxLength: 12,
        }),
        (sizes) => {
          const d = sizes.map(([w, h], i) => `M${(i % 4) * 25} ${Math.floor(i / 4) * 25}h${w}v${h}h${-w}z`).join('');
          const all = read(d);
          const one = all.layers[0]!;
          const gap = 0.02 * all.width;
          const some = someShapes(
            one,
            filmShapes(one).map((s) => s.id),
            { gap, most: all.width },
          )!;
          const boxes = filmShapes(some.layers[0]!).map((s) => s.box);
          expect(boxes).toHaveLength(sizes.length);
          boxes.forEach((a, i) =>
            boxes.slice(i + 1).forEach((b) => {
              const apart = Math.max(
                a.x - b.x - b.width,
                b.x - a.x - a.width,
                a.y - b.y - b.height,
                b.y - a.y - a.height,
              );
              expect(apart).toBeGreaterThanOrEqual(gap - 2);
            }),
          );
        },
      ),
      { numRuns: 40 },
    );
  });
});

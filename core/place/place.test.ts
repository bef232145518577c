import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inchesToMicrometres as inch } from '../units/index.ts';
import { truePaper } from './paper.ts';
import { place, usualSpot, usualWidth, widestDesign, type PlaceInput } from './place.ts';
import { shapeKeys, shapes } from './shapes.ts';

const input = (more: Partial<PlaceInput> = {}): PlaceInput => ({
  format: 'versipel-place/1',
  blank: { width: inch(20), height: inch(26), margins: { side: inch(1), top: inch(1), bottom: inch(2) } },
  design: { width: inch(11), height: inch(8) },
  spot: usualSpot(shapes.shirt),
  ...more,
});

describe('where a design goes', () => {
  it('(20 − 11) / 2 = 4½ in on each side, three inches below the collar (common practice, no source)', () => {
    expect(place(input())).toMatchObject({ left: inch(4.5), right: inch(4.5), top: inch(3), over: [] });
  });
  it('the middle of a blank 21 in wide is at 10½ in (common practice, no source)', () => {
    expect(place(input({ blank: { ...input().blank, width: inch(21) } })).anchor.x).toBe(inch(10.5));
  });
  it.each([
    ['shirt', 'M', 10],
    ['shirt', 'xl', 11],
    ['shirt', undefined, 9.5],
    ['tote', undefined, 11],
    ['toy', undefined, 5],
    ['stocking', undefined, 6.5],
    ['apron', undefined, 9.5],
    ['holder', undefined, 5.5],
    ['cap', undefined, 3],
  ] as const)('crafters make a design on a %s (%s) %f in wide (common practice, no source)', (shape, size, wide) => {
    const s = shapes[shape];
    const blank = { width: s.width, height: s.height, margins: s.margins };
    expect(usualWidth(s, { size }, blank, { width: 4, height: 1 })).toBe(inch(wide));
  });
  it('a side has its own box, and a way that somebody follows its own figure (common practice, no source)', () => {
    const s = shapes.shirt;
    const blank = { width: s.width, height: s.height, margins: s.margins };
    const wide = (side: string, design: { width: number; height: number }) => usualWidth(s, { side }, blank, design);
    expect(wide('number on the back', { width: 4, height: 3 })).toBe(inch(10));
    expect(wide('number on the back', { width: 1, height: 1 })).toBe(inch(7.5));
    expect(wide('name on the back', { width: 8, height: 3 })).toBe(inch(8));
    const follows = (width: string) => usualWidth(s, { size: 'M' }, blank, { width: 4, height: 1 }, { width });
    expect([follows('8'), follows('9-9.5'), follows('by size')]).toEqual([inch(8), inch(9.25), inch(10)]);
    expect(['3', '2.5-3', '4.5-5'].map((drop) => usualSpot(s, { drop }).down)).toEqual([
      inch(3),
      inch(2.75),
      inch(4.75),
    ]);
  });
  it('one inch more margin lowers the widest design by two', () => {
    const { blank } = input();
    const more = { ...blank, margins: { ...blank.margins, side: blank.margins.side + inch(1) } };
    const flat = { width: 10, height: 1 };
    expect(widestDesign(blank, flat) - widestDesign(more, flat)).toBe(inch(2));
  });
  it('a tall design is held by the height, and none is wider than fits', () => {
    expect(widestDesign(input().blank, { width: 1, height: 10 })).toBe(Math.floor(inch(23) / 10));
    for (const key of shapeKeys) {
      const s = shapes[key];
      const blank = { width: s.width, height: s.height, margins: s.margins };
      expect(usualWidth(s, {}, blank, { width: 1, height: 1 })).toBeLessThanOrEqual(
        widestDesign(blank, { width: 1, height: 1 }),
      );
    }
  });
  it('says which free edge is run over', () => {
    expect(place(input({ design: { width: inch(19), height: inch(8) } })).over).toEqual(['left', 'right']);
    expect(place(input({ spot: { from: 'edge', across: 0, down: 0, anchor: { x: 0, y: 0 } } })).over).toEqual([
      'left',
      'top',
    ]);
  });
  it('another anchor moves the design, on screen and on paper, by the same vector', () => {
    const share = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(share, share, share, share, (x, y, u, v) => {
        const at = (a: number, b: number) =>
          place(input({ spot: { from: 'below', down: inch(3), across: 0, anchor: { x: a, y: b } } }));
        const [p, q] = [at(x, y), at(u, v)];
        const { design } = input();
        expect(Math.abs(q.left - p.left - (x - u) * design.width)).toBeLessThanOrEqual(1);
        expect(Math.abs(q.top - p.top - (y - v) * design.height)).toBeLessThanOrEqual(1);
        // On paper the lines through the anchor move; on the blank the design does: by the same, the other way.
        const cross = (z: typeof p) => {
          const svg = truePaper({ design, placed: z, art: { width: 1000, layers: [] }, mirrored: false });
          const [, ax, ay] = /M([\d.]+) 0V[\d.]+M0 ([\d.]+)H/.exec(svg)!;
          return { x: Number(ax) * 1000, y: Number(ay) * 1000 };
        };
        expect(Math.abs(cross(q).x - cross(p).x + (q.left - p.left))).toBeLessThanOrEqual(2);
        expect(Math.abs(cross(q).y - cross(p).y + (q.top - p.top))).toBeLessThanOrEqual(2);
      }),
      { numRuns: 60 },
    );
  });
  it('what is beside the design and the design are the whole blank', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1_000, max: 900_000 }),
        fc.integer({ min: 1_000, max: 900_000 }),
        (width, height) => {
          const p = place(input({ design: { width, height } }));
          expect(p.left + width + p.right).toBe(inch(20));
          expect(p.top + height + p.bottom).toBe(inch(26));
        },
      ),
    );
  });
});

import fc from 'fast-check';
import { expect, test } from 'vitest';
import { placeOnRoll, usedLength, type FilmArea } from './placeOnRoll.ts';

const mm = (n: number) => n * 1000;
const film = fc.record({ width: fc.integer({ min: 5, max: 400 }), height: fc.integer({ min: 5, max: 400 }) });

test('beside what was cut before where there is room, turned where that takes less, and on where there is none', () => {
  const first = placeOnRoll(mm(300), [], { width: mm(100), height: mm(80) });
  expect(first).toEqual({ x: 0, y: 0, width: mm(100), height: mm(80) });
  const second = placeOnRoll(mm(300), [first], { width: mm(120), height: mm(60) });
  expect(second).toEqual({ x: mm(100), y: 0, width: mm(120), height: mm(60) });
  expect(usedLength([first, second])).toBe(mm(80));
  // 80 mm of width are left: what is 150 wide and 70 high fits there turned, and makes the used length 150; lying it would be 60 + 70.
  const third = placeOnRoll(mm(300), [first, second], { width: mm(150), height: mm(70) });
  expect(usedLength([first, second, third])).toBe(mm(130));
  // Wider than the roll either way: its whole width.
  expect(placeOnRoll(mm(300), [first], { width: mm(400), height: mm(350) })).toEqual({
    x: 0,
    y: mm(80),
    width: mm(300),
    height: mm(350),
  });
});

test('nothing overlaps, nothing leaves the roll, and a place that was given back is used again', () => {
  fc.assert(
    fc.property(fc.array(film, { minLength: 1, maxLength: 25 }), fc.nat(), (films, back) => {
      const width = 300;
      const taken: FilmArea[] = [];
      for (const f of films) taken.push(placeOnRoll(width, taken, f));
      for (const [i, a] of taken.entries()) {
        expect(a.x >= 0 && a.y >= 0 && a.x + a.width <= width).toBe(true);
        for (const b of taken.slice(i + 1))
          expect(a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y).toBe(
            true,
          );
      }
      const gone = taken[back % taken.length]!;
      const rest = taken.filter((a) => a !== gone);
      const again = placeOnRoll(width, rest, gone);
      expect(usedLength([...rest, again])).toBeLessThanOrEqual(usedLength(taken));
    }),
    { numRuns: 200 },
  );
});

test('a roll with a thousand pieces off it is laid in no time, behind the old ones', () => {
  const taken: FilmArea[] = [];
  for (let i = 0; i < 1000; i++)
    taken.push(placeOnRoll(300, taken.slice(-80), { width: 40 + (i % 7) * 20, height: 50 }));
  const area = placeOnRoll(300, taken, { width: 100, height: 50 });
  expect(usedLength([...taken, area]) - usedLength(taken)).toBeLessThanOrEqual(50);
});

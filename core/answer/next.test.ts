import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { limitsOf, positionsOf, shippedModel, shippedModels, strengthAxis } from '../controls/index.ts';
import { gradeIndex, gradeWords } from '../grades/index.ts';
import type { ShownFit } from '../window/index.ts';
import { nextAfter } from './index.ts';

const flat = (best: number, positions: number[], mean: number[]) =>
  ({
    summary: { curve: { positions, mean }, best: { position: best, chance: 0.9 }, recommended: null },
  }) as unknown as ShownFit;
const axis = strengthAxis(shippedModel('marlow-24', 1)!);

describe('what to set next time', () => {
  // Common practice, no source: what hung wants more, what was scored wants less.
  test('towards what it lacked, as far as the reading says', () => {
    const reading = flat(142, [100, 142, 200], [0.2, 0.9, 0.3]);
    expect(nextAfter(axis, 134, 'hangs', 'clean', reading)).toEqual({ kind: 'move', position: 142 });
    expect(nextAfter(axis, 150, 'scored', 'clean', reading)).toEqual({ kind: 'move', position: 142 });
    expect(nextAfter(axis, 134, 'clean', 'clean', reading)).toEqual({ kind: 'stay', why: 'as wanted' });
  });
  test('at the advised place already: one small step, where what is known does not speak against it', () => {
    const even = flat(140, [100, 180], [0.9, 0.9]);
    const up = nextAfter(axis, 140, 'hangs', 'clean', even);
    expect(up).toMatchObject({ kind: 'move' });
    if (up.kind === 'move') expect(up.position / 140).toBeCloseTo(1.04, 1);
    const steep = flat(140, [100, 140, 150, 180], [0.1, 0.95, 0.4, 0.1]);
    expect(nextAfter(axis, 140, 'hangs', 'clean', steep)).toEqual({ kind: 'stay', why: 'one cut' });
  });
  test('at the end of the axis there is no further place', () => {
    const { max } = limitsOf(axis);
    expect(nextAfter(axis, max, 'hangs', 'clean', flat(max, [10, max], [0.1, 0.9]))).toEqual({ kind: 'end' });
  });
  test('on every kind of control: never against the grade, always a place there is', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...shippedModels),
        fc.constantFrom(...gradeWords),
        fc.constantFrom('clean' as const, 'through' as const),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (model, grade, wanted, a, b) => {
          const strength = strengthAxis(model);
          const places = positionsOf(strength);
          const pick = (share: number) => places[Math.min(places.length - 1, Math.floor(share * places.length))]!;
          const [at, best] = [pick(a), pick(b)];
          const next = nextAfter(
            strength,
            at,
            grade,
            wanted,
            flat(
              best,
              [places[0]!, best, places.at(-1)!].sort((x, y) => x - y),
              [0.5, 0.5, 0.5],
            ),
          );
          if (next.kind !== 'move') return;
          expect(places).toContain(next.position);
          expect(Math.sign(next.position - at)).toBe(Math.sign(gradeIndex[wanted] - gradeIndex[grade]));
        },
      ),
    );
  });
});

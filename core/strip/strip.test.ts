import { describe, expect, test } from 'vitest';
import { limitsOf, shippedModel, shippedModels, strengthAxis } from '../controls/index.ts';
import { fit } from '../window/index.ts';
import { stripDomain, stripShades, stripSplit, stripTicks, stripX } from './index.ts';

const [marlow, oxbow] = shippedModels as [(typeof shippedModels)[0], (typeof shippedModels)[0]];
const axis = strengthAxis(marlow);
const read = (cells: [number, 'uncut' | 'clean' | 'scored'][]) =>
  fit({
    format: 'versipel-fit/1',
    model: marlow,
    type: 'glitter',
    wanted: 'clean',
    passes: 1,
    target: {},
    cells: cells.map(([strength, grade]) => ({ coupon: 'a', strength, figures: [{ grades: [{ passes: 1, grade }] }] })),
    seed: 1,
  }).summary;
const known = read([
  [95, 'uncut'],
  [110, 'clean'],
  [125, 'clean'],
  [140, 'clean'],
  [170, 'scored'],
]);

describe('the strip', () => {
  test('shows the window and its edges, not the whole axis', () => {
    const domain = stripDomain(axis, [known], [95, 170, 400]);
    expect(domain.from).toBeGreaterThan(20);
    expect(domain.to).toBeLessThan(300);
    expect(domain.from).toBeLessThan(known.edges.low.interval.low);
    expect(domain.to).toBeGreaterThan(known.edges.high.interval.high);
  });
  test('a dial is shown whole, with a mark at every stop', () => {
    const dial = strengthAxis(oxbow);
    expect(stripDomain(dial, [], [3])).toEqual({ from: 0, to: 16 });
    expect(stripTicks(dial, { from: 0, to: 16 })).toHaveLength(9);
  });
  test('a list is shown whole, each entry with one shade of its own and a mark at its normal pressure', () => {
    const leaf = shippedModel('pellam-leaf', 1)!;
    const list = strengthAxis(leaf);
    const domain = stripDomain(list, [], [3]);
    expect(domain).toEqual({ from: 0, to: 23 });
    expect(stripTicks(list, domain)).toEqual([1, 4, 7, 10, 13, 16, 19, 22]);
    const { summary } = fit({
      format: 'versipel-fit/1',
      model: leaf,
      type: 'smooth',
      wanted: 'clean',
      passes: 1,
      target: {},
      cells: [],
      seed: 1,
    });
    const shades = stripShades(list, summary, domain);
    expect(shades).toHaveLength(48);
    for (let i = 0; i < 48; i += 2) expect(shades[i]!.strength).toBe(shades[i + 1]!.strength);
    expect(shades.every((s, i) => i === 0 || s.x >= shades[i - 1]!.x)).toBe(true);
  });
  test('stays within the axis', () => {
    const { min, max } = limitsOf(axis);
    const domain = stripDomain(axis, [read([])], []);
    expect(domain.from).toBeGreaterThanOrEqual(min);
    expect(domain.to).toBeLessThanOrEqual(max);
  });
  test('is solid in the window, nothing far off, and pale while it is a guess', () => {
    const domain = stripDomain(axis, [known], []);
    const shades = stripShades(axis, known, domain);
    const solid = shades.filter(
      (s) => s.x > stripX(domain, known.window!.low) && s.x < stripX(domain, known.window!.high),
    );
    expect(solid.every((s) => s.strength > 0.95)).toBe(true);
    expect(shades[0]!.strength).toBeLessThan(0.05);
    const guess = stripShades(axis, read([]), domain);
    expect(Math.max(...guess.map((s) => s.strength))).toBeLessThan(0.5);
    expect(stripSplit(known, domain)).toBeCloseTo(stripX(domain, known.best.position));
  });
  test('ticks are round numbers within the stretch', () => {
    expect(stripTicks(axis, { from: 73, to: 211 })).toEqual([80, 100, 120, 140, 160, 180, 200]);
  });
});

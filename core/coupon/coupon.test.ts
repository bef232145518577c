import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  atStrength,
  AxisError,
  shippedModel,
  shippedModels,
  startingSetting,
  strengthAxis,
  limitsOf,
} from '../controls/index.ts';
import {
  couponSvg,
  figurePaths,
  finestLimits,
  layCoupon,
  layWitness,
  pathLength,
  type CouponInput,
  type CouponSheet,
} from './index.ts';

const [marlow, oxbow] = shippedModels as [(typeof shippedModels)[0], (typeof shippedModels)[0]];
const input = (count: number, cutFrom: 'back' | 'face', model = marlow): CouponInput => ({
  format: 'versipel-coupon/1',
  model,
  title: 'Starling',
  cutFrom,
  cells: Array.from({ length: count }, (_, i) => ({
    number: i + 1,
    setting: atStrength(model, startingSetting(model), limitsOf(strengthAxis(model)).min + i),
  })),
});
const bounds = (sheet: CouponSheet, cell: number) => {
  const points = sheet.cells[cell]!.paths.flatMap((p) => p.points);
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => y);
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
};

describe('the sheet', () => {
  test('six cells lie within 2 × 2 in', () => {
    const sheet = layCoupon(input(6, 'face'));
    expect(sheet.width).toBeLessThanOrEqual(50_800);
    expect(sheet.height).toBeLessThanOrEqual(50_800);
  });
  test('any number of cells: whole µm, on the sheet, no two overlap', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 12 }), fc.constantFrom('back' as const, 'face' as const), (count, side) => {
        const sheet = layCoupon(input(count, side));
        const boxes = sheet.cells.map((_, i) => bounds(sheet, i));
        for (const cell of sheet.cells)
          for (const path of cell.paths) for (const p of path.points) expect(p.every(Number.isInteger)).toBe(true);
        boxes.forEach((a, i) => {
          expect(a.left >= 0 && a.top >= 0 && a.right <= sheet.width && a.bottom <= sheet.height).toBe(true);
          boxes
            .slice(0, i)
            .forEach((b) =>
              expect(a.right < b.left || b.right < a.left || a.bottom < b.top || b.bottom < a.top).toBe(true),
            );
        });
      }),
    );
  });
  test('cut from the back it is mirrored: turned over, it is the face sheet point for point', () => {
    const back = layCoupon(input(6, 'back'));
    const face = layCoupon(input(6, 'face'));
    expect(back.mirrored).toBe(true);
    back.cells.forEach((cell, i) => {
      const turned = cell.paths.map((p) => p.points.map(([x, y]) => [back.width - x, y]));
      expect(turned).toEqual(face.cells[i]!.paths.map((p) => p.points.map(([x, y]) => [x, y])));
      expect(cell.length).toBe(face.cells[i]!.length);
    });
    // As it lies, cell 1 is at the right.
    expect(back.cells[0]!.x).toBeGreaterThan(back.cells[1]!.x);
  });
  test('the figure shows every fault: hole, gap, bar and a corner under 45°', () => {
    const cell = layCoupon(input(1, 'face')).cells[0]!;
    const [hole, bar, body, frame] = cell.paths.slice(-4);
    const span = (p: typeof hole, axis: 0 | 1) =>
      Math.max(...p!.points.map((q) => q[axis])) - Math.min(...p!.points.map((q) => q[axis]));
    expect(span(hole, 0)).toBeCloseTo(1_600, -2);
    expect(span(bar, 1)).toBe(800);
    expect(Math.min(...bar!.points.map((q) => q[1])) - Math.max(...body!.points.map((q) => q[1]))).toBe(500);
    const n = body!.points.length;
    const angles = body!.points.map((p, i) => {
      const [a, b] = [body!.points[(i + n - 1) % n]!, body!.points[(i + 1) % n]!];
      const u = [a[0] - p[0], a[1] - p[1]] as const;
      const v = [b[0] - p[0], b[1] - p[1]] as const;
      return (Math.acos((u[0] * v[0] + u[1] * v[1]) / (Math.hypot(...u) * Math.hypot(...v))) * 180) / Math.PI;
    });
    expect(Math.min(...angles)).toBeLessThan(45);
    expect(span(frame, 0)).toBe(12_000);
  });
  test('inner shapes are cut before the frame frees them', () => {
    const paths = layCoupon(input(1, 'face')).cells[0]!.paths;
    expect(pathLength(paths.at(-1)!)).toBe(48_000);
  });
  test('a strength outside the axis is refused', () => {
    const bad = input(1, 'face');
    bad.cells[0]!.setting = atStrength(marlow, startingSetting(marlow), 9);
    expect(() => layCoupon(bad)).toThrow(AxisError);
  });
});

describe('a figure with the finest line and gap of an artwork', () => {
  test.each([
    [finestLimits.bar.min, finestLimits.gap.min],
    [finestLimits.bar.max, finestLimits.gap.max],
    [600, 400],
  ])('a bar of %i µm, %i µm below the body, within its frame', (bar, gap) => {
    const [, line, body, frame] = figurePaths(12_000, { bar, gap }).map((p) => p.points.map(([, y]) => y));
    expect(Math.max(...line!) - Math.min(...line!)).toBe(bar);
    expect(Math.min(...line!) - Math.max(...body!)).toBe(gap);
    expect(Math.max(...line!)).toBeLessThan(Math.max(...frame!) - 500);
  });
});

describe('the file', () => {
  const sheet = layCoupon(input(6, 'back', oxbow));
  test('states its size in mm and names every cell with its controls', () => {
    const svg = couponSvg(sheet, oxbow);
    expect(svg).toContain(`width="44mm" height="37mm" viewBox="0 0 44000 37000"`);
    expect(svg.match(/<g id="cell-/g)).toHaveLength(6);
    expect(svg).toContain('id="cell-2" ');
    expect(svg).toContain('data-cell="2" data-dial="1½" data-passes="1"');
  });
  test('one file a cell keeps sheet and origin', () => {
    const whole = couponSvg(sheet, oxbow);
    const single = couponSvg(sheet, oxbow, 4);
    expect(single.match(/<g id="cell-/g)).toHaveLength(1);
    expect(/viewBox="[^"]*"/.exec(single)![0]).toBe(/viewBox="[^"]*"/.exec(whole)![0]);
    const group = /<g id="cell-4"[\s\S]*?<\/g>/;
    expect(group.exec(single)![0]).toBe(group.exec(whole)![0]);
  });
  test('a title is text, whatever is in it', () => {
    const evil = layCoupon({ ...input(1, 'face'), title: `</title><script>alert("1")</script>&\u0000\u202e` });
    const svg = couponSvg(evil, marlow);
    expect(svg).not.toContain('<script');
    expect(svg).toContain('&lt;/title&gt;&lt;script&gt;');
    expect(svg).not.toContain('\u0000');
  });
});

describe('a test mark for the margin', () => {
  const model = shippedModel('marlow-24', 2) ?? shippedModel('marlow-24', 1)!;
  const setting = { ...startingSetting(model), steps: { ...startingSetting(model).steps, force: 125 } };
  test('is bracketed one step either way where the cutter takes a strength for each shape, and small', () => {
    const { marks, sheet } = layWitness(model, setting, 'back');
    expect(marks.map((m) => [m.number, m.setting.steps.force])).toEqual([
      [2, 115],
      [3, 125],
      [4, 135],
    ]);
    expect(sheet.columns).toBe(3);
    expect(sheet.mirrored).toBe(true);
    expect(sheet.width).toBeLessThan(35_000);
    expect(sheet.height).toBeLessThan(20_000);
  });
  test('has one place where the strength is set by hand, and none beyond the axis', () => {
    const dial = shippedModel('oxbow-dial', 1)!;
    expect(layWitness(dial, startingSetting(dial), 'face').marks).toHaveLength(1);
    const top = { ...setting, steps: { ...setting.steps, force: 400 } };
    expect(layWitness(model, top, 'face').marks.map((m) => m.setting.steps.force)).toEqual([368, 400]);
  });
});

test('over the whole mat the outer cells lie at its edges', () => {
  const model = shippedModel('marlow-24', 1)!;
  const setting = startingSetting(model);
  const sheet = layCoupon({
    format: 'versipel-coupon/1',
    model,
    title: 'even',
    cutFrom: 'face',
    over: { width: 280_000, height: 280_000 },
    cells: Array.from({ length: 12 }, (_, i) => ({ number: i + 1, setting })),
  });
  expect(Math.abs(sheet.width - 280_000)).toBeLessThan(2_000);
  expect(Math.abs(sheet.height - 280_000)).toBeLessThan(2_000);
  expect(new Set(sheet.cells.map((c) => c.x)).size).toBe(4);
});

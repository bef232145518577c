import { describe, expect, test } from 'vitest';
import { atStrength, shippedModel, startingSetting } from '#core/controls/index.ts';
import { layCoupon } from '#core/coupon/index.ts';
import { hpglComment, hpglOfPiece, piecesOf } from '#core/cutfile/index.ts';
import { Machine } from './machine.ts';
import { grades } from './physics.ts';

const model = shippedModel('marlow-24', 2)!;
const sheet = (force: number) =>
  layCoupon({
    format: 'versipel-coupon/1',
    model,
    title: 'x',
    cutFrom: 'face',
    cells: [{ number: 1, setting: atStrength(model, startingSetting(model), force) }],
  });
const job = (id: string, force: number) => {
  const drawing = piecesOf(sheet(force), model);
  return `IN;SP1;${hpglComment(`versipel cell=${id} pass=1 vinyl=moss`)}${hpglOfPiece(drawing.pieces[0]!, drawing.height)}`;
};

describe('the simulated cutter', () => {
  test('heavier is never a lower grade by more than luck, and all five happen', () => {
    const machine = new Machine(4);
    const forces = Array.from({ length: 58 }, (_, i) => Math.round(30 * 1.045 ** i));
    const seen = forces.map((force, i) => {
      machine.cut(job(`c${i}`, force));
      return grades.indexOf(machine.truth(`c${i}`)!.grade);
    });
    expect(new Set(seen).size).toBe(5);
    for (let i = 6; i < seen.length; i++) expect(seen[i]!).toBeGreaterThanOrEqual(seen[i - 6]!);
  });
  test('a second pass over the same cell cuts deeper, and is counted', () => {
    const machine = new Machine(4);
    for (const force of [40, 60, 80, 100]) {
      machine.cut(job(`f${force}`, force));
      const first = grades.indexOf(machine.truth(`f${force}`)!.grade);
      machine.cut(job(`f${force}`, force));
      expect(grades.indexOf(machine.truth(`f${force}`)!.grade)).toBeGreaterThanOrEqual(first);
      expect(machine.truth(`f${force}`)!.passes).toBe(2);
    }
  });
  test('the same seed cuts the same; the picture says no grade', () => {
    const [a, b] = [new Machine(9), new Machine(9)];
    for (const m of [a, b]) m.cut(job('one', 90));
    expect(a.picture('one')).toBe(b.picture('one'));
    expect(a.picture('one')).not.toMatch(new RegExp(grades.join('|')));
    expect(a.picture('never')).toBeUndefined();
  });
  test('a film of a given thickness: the usual first coupon finds what is uncut, clean and scored in it', () => {
    for (const seed of [1, 2, 3, 4, 5, 6]) {
      const machine = new Machine(seed, 84);
      const seen = [33, 64, 94, 127, 170, 234].map((force) => {
        machine.cut(job(`s${force}`, force));
        return machine.truth(`s${force}`)!.grade;
      });
      expect(seen[0]).toBe('uncut');
      expect(seen).toContain('clean');
      expect(['scored', 'through']).toContain(seen.at(-1));
    }
  });
  test('an instruction it does not know is remembered as error 1', () => {
    const machine = new Machine(1);
    machine.cut('IN;ZZ1,2;');
    expect(machine.error).toBe(1);
  });
});

import fc from 'fast-check';
import { v7 as uuidv7 } from 'uuid';
import { expect, test } from 'vitest';
import { benchEventSchema, currentGrades, differences, gradeWords, lastGrade, type GradeEvent } from './index.ts';

const cells = ['018f0000-0000-7000-8000-000000000001', '018f0000-0000-7000-8000-000000000002'];
const device = '3f0f0000-0000-4000-8000-000000000001';
const at = (s: number) => new Date(1_700_000_000_000 + s * 1000).toISOString();
const graded = (cell: number, grade: (typeof gradeWords)[number], s: number, passes = 1): GradeEvent => ({
  id: uuidv7(),
  kind: 'grade',
  cell: cells[cell]!,
  figure: 1,
  passes,
  grade,
  device,
  deviceAt: at(s),
});
const taken = (e: GradeEvent, s: number): GradeEvent => ({
  id: uuidv7(),
  kind: 'retract',
  cell: e.cell,
  retracts: e.id,
  device,
  deviceAt: at(s),
});

test('a later grade corrects an earlier one; taking back brings the earlier one to light', () => {
  const first = graded(0, 'hangs', 1);
  const second = graded(0, 'clean', 2);
  expect(currentGrades([first, second]).map((g) => g.grade)).toEqual(['clean']);
  expect(currentGrades([first, second, taken(second, 3)]).map((g) => g.grade)).toEqual(['hangs']);
  expect(currentGrades([first, taken(first, 2)])).toEqual([]);
});

test('a second pass is a grade of its own', () => {
  expect(currentGrades([graded(0, 'uncut', 1), graded(0, 'clean', 2, 2)]).map((g) => [g.passes, g.grade])).toEqual([
    [1, 'uncut'],
    [2, 'clean'],
  ]);
});

test('neither order nor repetition of delivery matters', () => {
  const base = [graded(0, 'uncut', 1), graded(1, 'clean', 2), graded(0, 'clean', 3), graded(1, 'scored', 3, 2)];
  const all = [...base, taken(base[1]!, 5), graded(0, 'hangs', 6)];
  const key = (list: readonly GradeEvent[]) =>
    JSON.stringify(currentGrades(list).sort((a, b) => (a.event < b.event ? -1 : 1)));
  fc.assert(
    fc.property(
      fc.array(fc.nat(all.length - 1), { maxLength: 12 }),
      fc.shuffledSubarray(all, { minLength: all.length }),
      (again, order) => {
        expect(key([...order, ...again.map((i) => all[i]!)])).toBe(key(all));
      },
    ),
  );
});

test('undo finds the latest grade that still counts', () => {
  const first = graded(0, 'hangs', 1);
  const second = graded(1, 'clean', 2);
  expect(lastGrade([second, first])?.id).toBe(second.id);
  expect(lastGrade([first, second, taken(second, 3)])?.id).toBe(first.id);
  expect(lastGrade([])).toBeUndefined();
});

test('an event says grades as words, and nothing more', () => {
  expect(benchEventSchema.safeParse(graded(0, 'clean', 1)).success).toBe(true);
  expect(benchEventSchema.safeParse({ ...graded(0, 'clean', 1), grade: 3 }).success).toBe(false);
  expect(benchEventSchema.safeParse({ ...graded(0, 'clean', 1), person: 'somebody' }).success).toBe(false);
  expect(
    benchEventSchema.safeParse({ ...graded(0, 'clean', 1), id: '3f0f0000-0000-4000-8000-000000000001' }).success,
  ).toBe(false);
  expect(benchEventSchema.safeParse({ ...graded(0, 'clean', 1), deviceAt: 'yesterday' }).success).toBe(false);
});

test('two devices that differ about a cell are both heard; the later one counts', () => {
  const other = '4f0f0000-0000-4000-8000-000000000002';
  const here = graded(0, 'hangs', 1);
  const there = { ...graded(0, 'clean', 2), device: other };
  expect(differences([here, graded(1, 'clean', 1)])).toEqual([]);
  const [found] = differences([there, here]);
  expect(found?.said.map((s) => [s.grade, s.device])).toEqual([
    ['hangs', device],
    ['clean', other],
  ]);
  expect(currentGrades([there, here])[0]!.grade).toBe(found!.said.at(-1)!.grade);
  // The first device speaks again and agrees: nothing differs any more.
  expect(differences([here, there, graded(0, 'clean', 3)])).toEqual([]);
  // What was taken back is not heard.
  expect(differences([here, there, taken(there, 4)])).toEqual([]);
});

import { z } from 'zod';
import { gradeWords, type Grade } from './grade.ts';

/**
 * One thing a person said about a cell. Events are only ever added: a correction is a later event for the same cell,
 * figure and passes; taking one back is a `retract` that names it.
 */
const common = {
  id: z.uuid({ version: 'v7' }).describe('made by the device that saw it'),
  cell: z.uuid(),
  device: z.uuid(),
  deviceAt: z.iso.datetime({ offset: true }).describe('the device clock'),
};

export const gradeEventSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    ...common,
    kind: z.literal('grade'),
    figure: z.int().min(1).max(64).default(1),
    passes: z.int().min(1).max(9).describe('passes done over the figure so far'),
    grade: z.enum(gradeWords),
  }),
  z.strictObject({ ...common, kind: z.literal('retract'), retracts: z.uuid({ version: 'v7' }) }),
]);
export type GradeEvent = z.infer<typeof gradeEventSchema>;

export type CurrentGrade = { cell: string; figure: number; passes: number; grade: Grade; event: string };

/** Device time, then id: the order in which things happened as far as anybody can tell. */
const inOrder = (a: GradeEvent, b: GradeEvent) =>
  Date.parse(a.deviceAt) - Date.parse(b.deviceAt) || (a.id < b.id ? -1 : 1);

/**
 * What stands after all events: for each cell, figure and number of passes the latest grade that nobody took back.
 * The answer does not depend on the order in which events arrived, nor on repeats.
 */
export function currentGrades(events: readonly GradeEvent[]): CurrentGrade[] {
  const once = [...new Map(events.map((e) => [e.id, e])).values()].sort(inOrder);
  const gone = new Set(once.flatMap((e) => (e.kind === 'retract' ? [e.retracts] : [])));
  const standing = new Map<string, CurrentGrade>();
  for (const event of once) {
    if (event.kind !== 'grade' || gone.has(event.id)) continue;
    const { cell, figure, passes, grade, id } = event;
    standing.set(`${cell} ${figure} ${passes}`, { cell, figure, passes, grade, event: id });
  }
  return [...standing.values()];
}

/** The latest grade event that still counts: what undo would take back. */
export function lastGrade(events: readonly GradeEvent[]): GradeEvent | undefined {
  const gone = new Set(events.flatMap((e) => (e.kind === 'retract' ? [e.retracts] : [])));
  return [...events]
    .filter((e) => e.kind === 'grade' && !gone.has(e.id))
    .sort(inOrder)
    .at(-1);
}

/** A pass was run over a cell: counted for the blade's age. */
export const cutEventSchema = z.strictObject({ ...common, kind: z.literal('cut'), passes: z.int().min(1).max(9) });
export type CutEvent = z.infer<typeof cutEventSchema>;

/** Everything the bench sends: grades, what is taken back, passes run. */
export const benchEventSchema = z.union([gradeEventSchema, cutEventSchema]);
export type BenchEvent = GradeEvent | CutEvent;

import { z } from 'zod';
import { envelope, standingOf } from '../events/index.ts';
import { gradeWords, type Grade } from './grade.ts';

/**
 * One thing a person said about a cell. A correction is a later event for the same cell, figure and passes; taking one back is a `retract`
 * that names it.
 */
const common = { ...envelope, cell: z.uuid() };

const gradeEventSchema = z.discriminatedUnion('kind', [
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

/** The grades that nobody took back, in order. */
const standingGrades = (events: readonly GradeEvent[]) =>
  standingOf(events, (e) => (e.kind === 'retract' ? e.retracts : undefined)).filter((e) => e.kind === 'grade');

/**
 * What stands after all events: for each cell, figure and number of passes the latest grade that nobody took back.
 * The answer does not depend on the order in which events arrived, nor on repeats.
 */
export function currentGrades(events: readonly GradeEvent[]): CurrentGrade[] {
  const standing = new Map<string, CurrentGrade>();
  for (const event of standingGrades(events)) {
    const { cell, figure, passes, grade, id } = event;
    standing.set(`${cell} ${figure} ${passes}`, { cell, figure, passes, grade, event: id });
  }
  return [...standing.values()];
}

/** The latest grade event that still counts: what undo would take back. */
export const lastGrade = (events: readonly GradeEvent[]): GradeEvent | undefined => standingGrades(events).at(-1);

/** Two devices that said different things about one and the same figure after the same passes. */
export type Difference = {
  cell: string;
  passes: number;
  said: { grade: Grade; device: string; at: string; event: string }[];
};

/**
 * Where devices disagree: for each cell, figure and number of passes the latest word of every device, oldest first, if they are
 * not all the same. The last of them is the one that counts.
 */
export function differences(events: readonly GradeEvent[]): Difference[] {
  const heard = new Map<string, Map<string, GradeEvent & { kind: 'grade' }>>();
  for (const event of standingGrades(events)) {
    const key = `${event.cell} ${event.figure} ${event.passes}`;
    const voices = heard.get(key) ?? new Map<string, GradeEvent & { kind: 'grade' }>();
    heard.set(key, voices);
    // Deleted first, so that a device that speaks again goes to the end.
    voices.delete(event.device);
    voices.set(event.device, event);
  }
  return [...heard.values()].flatMap((voices) => {
    const list = [...voices.values()];
    if (new Set(list.map((e) => e.grade)).size < 2) return [];
    const said = list.map((e) => ({ grade: e.grade, device: e.device, at: e.deviceAt, event: e.id }));
    return [{ cell: list[0]!.cell, passes: list[0]!.passes, said }];
  });
}

/** A pass was run over a cell: counted for the blade's age. */
const cutEventSchema = z.strictObject({ ...common, kind: z.literal('cut'), passes: z.int().min(1).max(9) });
type CutEvent = z.infer<typeof cutEventSchema>;

/** Details of the figure that may be lost in weeding. */
export const details = ['corner', 'hole', 'bar', 'gap'] as const;
export type Detail = (typeof details)[number];

/** How the waste of a cell came off: the latest for a cell is the one that counts. */
const weedEventSchema = z.strictObject({
  ...common,
  kind: z.literal('weed'),
  ease: z.int().min(1).max(5).describe('1 hard, 5 by itself'),
  lost: z.array(z.enum(details)).max(details.length),
  torn: z.boolean(),
});
export type WeedEvent = z.infer<typeof weedEventSchema>;

/** Everything the bench sends: grades, what is taken back, passes run, how it weeded. */
export const benchEventSchema = z.union([gradeEventSchema, cutEventSchema, weedEventSchema]);
export type BenchEvent = GradeEvent | CutEvent | WeedEvent;

/** Those of some events that are about grades. */
export const gradesAmong = (events: readonly BenchEvent[]): GradeEvent[] =>
  events.filter((e): e is GradeEvent => e.kind === 'grade' || e.kind === 'retract');

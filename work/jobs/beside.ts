import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { filmSteps, jobLimits, takesOf, tipsAt, tipSteps, type FilmStep } from '#core/job/index.ts';
import { shapes } from '#core/place/index.ts';
import { sayWay } from '#core/press/index.ts';
import { fullWays } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/jobs/habits.ts';
import { read } from '#work/base/forms.ts';
import { line } from '#work/base/text.ts';
import { enforceQuota } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';
import { schoolsOf } from '#work/vinyls/schools.ts';
import { vinylRow } from '#work/vinyls/vinyls.ts';
import type { JobView } from './view.ts';

/** What hands are told beside the steps of a job: of each layer by kind of step; of each step at the press before it is closed, and once it is open. */
export type Tips = {
  layers: Record<string, Partial<Record<FilmStep, string[]>>>;
  press: {
    before: string[];
    opened: string[];
    /** Whether a tip says already that a hard board lies below. */
    board: boolean;
  }[];
  /** What matters before anything is cut. */
  design: string[];
};

type Told = Pick<JobView, 'plan' | 'layers' | 'press'>;

export function tipsFor({ plan, layers, press }: Told): Tips {
  const blank = takesOf(plan.blank);
  const { shape } = plan.blank;
  const behaviours = (ids: readonly string[]) =>
    layers.flatMap((l) => (l.vinyl && ids.includes(l.id) ? [l.vinyl.behaviour] : []));
  const lines = (...told: Parameters<typeof tipsAt>) => tipsAt(...told).map((t) => t.says);
  const steps = tipSteps(
    press.map((s) => ({
      kind: s.kind,
      does: s.kind === 'apply' && !s.byHand ? s.what.replace('apply ', '') : s.does,
      films: s.layers,
    })),
  );
  return {
    layers: Object.fromEntries(
      layers.map((l) => [
        l.id,
        Object.fromEntries(filmSteps.map((kind) => [kind, lines({ kind }, behaviours([l.id]), blank, shape, l.hands)])),
      ]),
    ),
    press: press.map((s, i) => {
      // A backing that comes off is a step of its own, whose lines stand in it.
      if (s.byHand) return { before: [], opened: [], board: false };
      const step = steps[i]!;
      const films = behaviours(s.layers);
      const before = tipsAt(step, films, blank, shape);
      return {
        before: before.map((t) => t.says),
        board: before.some((t) => t.key === 'board' || t.key === 'hard and dry'),
        opened: lines({ ...step, opened: true, first: false }, films, blank, shape),
      };
    }),
    design: [
      ...new Set(
        [blank.tips, ...behaviours(layers.map((l) => l.id)).map((b) => b.tips), shapes[shape].tips].flatMap((tips) =>
          tips.flatMap((t) => (t.at === 'design' ? [t.says] : [])),
        ),
      ),
    ],
  };
}

/** What somebody noted in other jobs with these vinyls, or on such a blank: by kind of step. */
export type Reminder = { vinyl: string | undefined; step: string; says: string; at: string };

export async function remindersFor(person: Person | undefined, { id, plan, layers }: JobView): Promise<Reminder[]> {
  if (!person) return [];
  const vinyls = layers.flatMap((l) => l.vinyl?.id ?? []);
  const rows = await store.notesFor(db(), person.id, vinyls, plan.blank, id);
  return rows.map((r) => ({ vinyl: r.vinyl_id ?? undefined, step: r.step, says: r.says, at: r.at.toISOString() }));
}

const noteForm = z.object({ note: line('the note', jobLimits.noteLine) });

/** Notes something of a vinyl where there is no job: on its bench card, at a cut. */
export async function addNote(person: Person, vinylId: string, step: 'card' | 'cut', form: FormData): Promise<void> {
  const { note } = read(noteForm, form);
  const vinyl = await vinylRow(person, vinylId);
  await enforceQuota(person, 'notes');
  await store.insertNote(db(), {
    eventId: uuidv7(),
    personId: person.id,
    jobId: null,
    step,
    vinylId: vinyl.id,
    blank: null,
    says: note,
    at: new Date(),
  });
}

/** What somebody noted of a vinyl in their jobs, at its cuts, on its card: the newest first. */
export const notesOf = async (person: Person | undefined, vinylId: string) =>
  person
    ? (await store.notesOfVinyl(db(), person.id, vinylId, 6)).map((r) => ({
        step: r.step,
        says: r.says,
        at: r.at.toISOString(),
      }))
    : [];

/** The ways crafters press a film: each with how many here follow it. None where there is one only, or one's own recipe stands before any. */
export type Way = { key: string; says: string; followers: number; mine: boolean };

export async function waysOf(
  person: Person | undefined,
  { layers, pressPlan }: JobView,
): Promise<Record<string, Way[]>> {
  const iron = pressPlan.source?.kind === 'iron';
  const found = await Promise.all(
    layers.map(async ({ id, vinyl }): Promise<[string, Way[]]> => {
      const own = pressPlan.said.find((s) => s.layer === id)?.source?.startsWith('own');
      const ways = vinyl && !own ? fullWays(vinyl.behaviour.press, iron) : [];
      if (ways.length < 2) return [id, []];
      const voices = (await schoolsOf(person, vinyl!.id)).press;
      return [
        id,
        ways.map(({ way, key }) => {
          const voice = voices.find((v) => v.way === key);
          return { key, says: sayWay(way), followers: voice?.followers ?? 0, mine: voice?.mine ?? false };
        }),
      ];
    }),
  );
  return Object.fromEntries(found);
}

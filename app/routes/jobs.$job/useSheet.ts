import { useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { currentGrades, gradesAmong } from '#core/grades/index.ts';
import { passesOf } from '#core/controls/index.ts';
import {
  cellId,
  cutId,
  isEnough,
  layerOfPart,
  runSheet,
  type CutFact,
  type JobEvent,
  type Sheet,
  type SheetStep,
  type Symptom,
} from '#core/job/index.ts';
import { wantedOfType } from '#core/vinyls/index.ts';
import { useHandEvents } from '../../ui/base/useHandEvents.ts';
import { useSayAtJob } from '../../ui/jobs/useSayAtJob.ts';
import { useNow } from '../../ui/base/useNow.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export type Job = Route.ComponentProps['loaderData'];
export type JobLayer = Job['layers'][number];
export type Work = {
  sheet: Sheet;
  /** The step that is shown: the one asked for, else the next. */
  step: SheetStep | undefined;
  events: JobEvent[];
  facts: CutFact[];
  now: number;
  say: ReturnType<typeof useSayAtJob>;
};

/** What a step's own part is given. */
export type StepProps = {
  job: Job;
  work: Work;
  step: SheetStep;
  layer: JobLayer;
  /** What was wrong with a form that was sent from here. */
  answer?: FormAnswer | undefined;
  done: () => void;
  /** Says what is seen to be wrong. */
  wrong: (seen: Symptom) => void;
};

/** The sheet as it stands on this device: what the server knows, and what was tapped here and is still on its way. */
export function useSheet(job: Job): Work {
  const mine = useHandEvents('job', [job.id], true);
  const say = useSayAtJob(job.id, job.rev);
  const events = useMemo(() => [...job.events, ...mine], [job.events, mine]);
  const cells = useMemo(
    () => [...new Set(events.flatMap((e) => (e.kind === 'cut' ? [cellId(cutId(e.part, e.attempt))] : [])))],
    [events],
  );
  const bench = useHandEvents('cell', cells);
  const facts = useMemo(() => {
    const made = new Map(job.facts.map((f) => [f.cut, f as CutFact]));
    for (const e of events) {
      if (e.kind !== 'cut') continue;
      const cut = cutId(e.part, e.attempt);
      const known = made.get(cut);
      const cell = cellId(cut);
      const here = bench.filter((b) => b.cell === cell);
      const layer = layerOfPart(job, e.part);
      const wanted = layer ? wantedOfType(layer.vinyl.type) : 'clean';
      const planned = known ? known.passes : job.bench ? passesOf(job.bench.model, e.setting) : 1;
      const passes = Math.max(planned, ...here.flatMap((b) => (b.kind === 'cut' ? [b.passes] : [])));
      const all = [...(job.facts.find((f) => f.cut === cut)?.events ?? []), ...gradesAmong(here)];
      const grade = currentGrades(all).find((g) => g.cell === cell && g.passes === Math.max(1, passes))?.grade;
      made.set(cut, { part: e.part, attempt: e.attempt, cut, cell, passes, grade, enough: isEnough(grade, wanted) });
    }
    return [...made.values()];
  }, [bench, events, job]);
  const press = useMemo(
    () => job.press.map(({ what, layers, kind, seconds }) => ({ what, layers, kind, seconds })),
    [job.press],
  );
  const clocks = useMemo(
    () => runSheet(job.plan, job.widths, events, facts, press, 0).steps.some((s) => s.since),
    [job, events, facts, press],
  );
  const now = useNow(clocks, 1000);
  const sheet = useMemo(
    () => runSheet(job.plan, job.widths, events, facts, press, now),
    [job, events, facts, press, now],
  );
  const [query] = useSearchParams();
  const asked = query.get('step');
  const step = sheet.steps.find((s) => s.id === asked) ?? sheet.steps.find((s) => s.id === sheet.next);
  return { sheet, step, events, facts, now, say };
}

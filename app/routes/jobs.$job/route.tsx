import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { redirect, useSearchParams, type ShouldRevalidateFunctionArgs } from 'react-router';
import type { CutterModel } from '#core/controls/index.ts';
import { markCellId, marksBeside } from '#core/coupon/index.ts';
import { placeOnRoll, tooLarge } from '#core/job/index.ts';
import { shapes } from '#core/place/index.ts';
import { isStencil } from '#core/press/index.ts';
import { remindersFor, tipsFor, waysOf } from '#work/jobs/beside.ts';
import { offersFor, setHabit } from '#work/jobs/habits.ts';
import { archiveJob, setPress, setSchool, setWaste } from '#work/jobs/jobs.ts';
import { lineOfCut } from '#work/cuts/line.ts';
import { answersFor, sendPart, settlePart } from '#work/jobs/cut.ts';
import { addFinish, dropFinish } from '#work/jobs/finish.ts';
import { repeatJob } from '#work/jobs/repeat.ts';
import { shapesOf } from '#work/jobs/film.ts';
import { sayPressFigures } from '#work/jobs/sayPressFigures.ts';
import { recordsOf } from '#work/jobs/record.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { followSchool } from '#work/vinyls/schools.ts';
import { schoolsHeld } from '#work/vinyls/recipes.ts';
import { jobOf, type JobCut, type JobLayer } from '#work/jobs/view.ts';
import { areasOf, stockOf } from '#work/vinyls/stock.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { besideCutter } from '#work/workshop/workshop.ts';
import { washMat } from '#work/workshop/mats.ts';
import { words } from '../../messages/index.ts';
import { actions, apart, enter, visitorsBench } from '../../server/enter.server.ts';
import { leanRows } from '../../server/rows.server.ts';
import { FormNotice } from '../../ui/base/Field.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Refused, Sending } from '../../ui/cuts/Sending.tsx';
import { JobHead } from '../../ui/jobs/JobHead.tsx';
import { TroubleList } from '../../ui/jobs/TroubleList.tsx';
import { HabitOffers } from './BesideStep.tsx';
import { OtherSize } from './OtherSize.tsx';
import { OwnSteps } from './OwnSteps.tsx';
import { Rests } from './Rests.tsx';
import { SheetList } from './SheetList.tsx';
import { PressRun } from './press/PressRun.tsx';
import { StepPanel } from './StepPanel.tsx';
import { useSheet } from './useSheet.ts';
import { DidItHelp } from './WrongPanel.tsx';
import type { Route } from './+types/route';

type JobPlanLayer = Awaited<ReturnType<typeof jobOf>>['plan']['layers'][number];

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** The run sheet of a job: every step with its state, and all that the step in hand needs. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const { job: id } = args.params;
  const [job, bench, stock, beside] = await Promise.all([
    jobOf(person, id),
    visitorsBench(args),
    stockOf(person),
    person && besideCutter(person),
  ]);
  if (job.missing === 'design') throw redirect(`/jobs/art?job=${id}`);
  if (job.missing) throw redirect(`/jobs/${id}/${job.missing}`);
  const answers = person ? await answersFor(person, bench, job) : [];
  const areas = await areasOf(stock.filter((p) => job.layers.some((l) => l.vinyl?.id === p.vinyl.id)).map((p) => p.id));
  const lean = leanRows(
    answers.map((a) => a.row),
    bench?.cutter.model,
  );
  const asked = new URL(args.request.url).searchParams.get('step') ?? job.sheet.next;
  const part =
    asked?.startsWith('cut/') || asked?.startsWith('lift/') ? asked.slice(asked.indexOf('/') + 1) : undefined;
  const fact = job.facts.filter((f) => f.part === part && !f.undone).sort((a, b) => b.attempt - a.attempt)[0];
  const [ways, held, reminders, offers, records] = await Promise.all([
    waysOf(person, job),
    schoolsHeld(person),
    remindersFor(person, job),
    offersFor(person, {
      shape: job.plan.blank.shape,
      side: job.plan.blank.side,
      unit: person?.length_unit ?? 'mm',
      vinyls: job.layers.flatMap((l) => (l.vinyl ? [{ id: l.vinyl.id, lifts: l.hands.lifts }] : [])),
    }),
    recordsOf(person, bench, job, answers, stock),
  ]);
  /** A layer as its steps show it. */
  const shown = (l: JobLayer) => {
    const answer = answers.find((a) => a.layer === l.id);
    const { vinyl } = l;
    return {
      id: l.id,
      part: l.part,
      again: l.again,
      round: l.round,
      tooLarge: tooLarge(l.asked!, job.under),
      hex: l.hex,
      shapes: shapesOf(l.shown, l.vinyl!.behaviour.minFeatureUm),
      film: l.film!,
      waste: wasteOf(job.plan.layers.find((p) => p.id === l.id)),
      lengthUm: l.lengthUm,
      vinyl: { id: vinyl!.id, brand: vinyl!.brand, name: vinyl!.name, type: vinyl!.type, colour: vinyl!.colour },
      lies: {
        side: vinyl!.behaviour.side,
        cutFrom: vinyl!.behaviour.cutFrom,
        mat: vinyl!.behaviour.mat,
        carrier: vinyl!.behaviour.carrier,
        face: vinyl!.behaviour.face,
        bond: vinyl!.behaviour.bond,
      },
      hands: l.hands,
      ways: ways[l.id] ?? [],
      stencil: isStencil({
        type: vinyl!.type,
        bond: vinyl!.behaviour.bond,
        stencil: job.plan.layers.find((p) => p.id === l.id)?.stencil,
      }),
      row: lean.find((r) => r.id === vinyl!.id),
      // How many test marks are cut beside it.
      marks: bench && answer?.toSet ? marksBeside(bench.cutter.model, answer.toSet.setting).length : 1,
      toSet: answer?.toSet && { setting: answer.toSet.setting, parts: answer.toSet.parts },
      answer: answer?.row.answer,
      stock: stock
        .filter((p) => p.vinyl.id === vinyl!.id && (!p.colourId || !vinyl!.colour || p.colourId === vinyl!.colour.id))
        .map((p) => ({
          id: p.id,
          code: p.code,
          leftUm: p.leftUm,
          colour: p.vinyl.colour?.name,
          // Beside what was cut of it before, where there is room.
          besideUm: placeOnRoll(p.widthUm, areas.get(p.id) ?? [], l.film!).x,
        })),
    };
  };
  return {
    id,
    name: job.name,
    archived: job.archived,
    rev: job.rev,
    plan: job.plan,
    widths: job.widths,
    events: job.events,
    facts: job.facts.filter((f) => !f.undone).map((f) => ({ ...f, marks: markGrades(bench?.cutter.model, f) })),
    press: job.press,
    pressPlan: job.pressPlan,
    held,
    tips: tipsFor(job),
    reminders,
    offers,
    wash: job.wash,
    placed: job.placed,
    art: { width: job.artwork!.width, height: job.artwork!.height },
    presses: (beside?.presses ?? []).slice(0, 2),
    troubles: job.troubles,
    mat: job.under.mat,
    records,
    bench: bench?.blade && {
      id: bench.cutter.id,
      cutter: bench.cutter.name,
      mounting: bench.blade.mounting,
      model: bench.cutter.model,
    },
    line: part && bench ? await lineOfCut(person, fact?.cut, bench.cutter.model) : undefined,
    layers: job.layers.map(shown),
    // Each round by itself, and what was lost and is cut again for the pieces that lost it.
    parts: job.parts.map(shown),
  };
}

/** What is cut in the waste beside a layer, as somebody said. */
const wasteOf = (layer: JobPlanLayer | undefined) => ({
  frame: layer?.frame ?? false,
  lines: layer?.lines ?? false,
  stencil: layer?.stencil ?? false,
});

/** The cells of the test mark that was cut beside a part, in the terms of the cutter on the bench; none where none was cut. */
function markGrades(model: CutterModel | undefined, { cut, setting, marks }: JobCut) {
  if (!model || setting.model !== model.key || setting.version !== model.version) return [];
  return marksBeside(model, setting)
    .map(({ number, shown }) => ({ number, shown, cell: markCellId(cut, number) }))
    .filter((m) => marks.includes(m.cell));
}

/** The step a form was sent from, to come back to. */
function stepIn(form: FormData): string | undefined {
  const step = String(form.get('step') ?? '');
  return /^(cut|press)\/[0-9a-f-]{36}$/.test(step) ? step : undefined;
}

export function action(args: Route.ActionArgs) {
  const { job } = args.params;
  const here = (step?: string) => `/jobs/${job}${step ? `?step=${step}` : ''}`;
  return actions(access, args, {
    // The cutter is under its blade once this is committed: it keeps its own transactions.
    send: apart(async ({ person, form }) => {
      await sendPart(person!, await benchOf(person), job, form);
      return here();
    }),
    settle: async ({ person, form }) => {
      await settlePart(person, job, form);
      return here();
    },
    wash: async ({ person, form }) => {
      await washMat(person, String(form.get('mat')));
      return here();
    },
    habit: async ({ person, form }) => {
      await setHabit(person, form);
      return here();
    },
    school: async ({ person, form }) => {
      await setSchool(person, job, form);
      return here();
    },
    leaflet: async ({ person, form }) => {
      await sayPressFigures(person, job, form);
      return here(stepIn(form));
    },
    keep: async ({ person, form }) => {
      await keepSetting(person, form);
      return here(stepIn(form));
    },
    way: async ({ person, form }) => {
      await followSchool(person, String(form.get('vinyl')), form);
      return here(stepIn(form));
    },
    press: async ({ person, form }) => {
      await setPress(person, job, form);
      return here();
    },
    finish: async ({ person, form }) => {
      await addFinish(person, job, form);
      return here();
    },
    'drop finish': async ({ person, form }) => {
      await dropFinish(person, job, form);
      return here();
    },
    waste: async ({ person, form }) => {
      await setWaste(person, job, form);
      return here();
    },
    repeat: async ({ person }) => `/jobs/${await repeatJob(person, job)}/size`,
    'put away': async ({ person }) => {
      await archiveJob(person, job, true);
      return '/jobs';
    },
    'take up': async ({ person }) => {
      await archiveJob(person, job, false);
      return here();
    },
  });
}

/** Another step of the same sheet asks the server nothing, but where the cutter may have something to say: hands go on without a network. */
export function shouldRevalidate({
  currentUrl,
  nextUrl,
  formMethod,
  defaultShouldRevalidate,
}: ShouldRevalidateFunctionArgs) {
  const turned = currentUrl.pathname === nextUrl.pathname && currentUrl.search !== nextUrl.search;
  if (formMethod || !turned) return defaultShouldRevalidate;
  return /^(cut|lift)\//.test(nextUrl.searchParams.get('step') ?? '');
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData?.name ?? words.jobs.title) },
];

export default function JobSheet({ loaderData: job, actionData }: Route.ComponentProps) {
  const t = words.jobs;
  const work = useSheet(job);
  const [query] = useSearchParams();
  if (query.has('run')) return <PressRun job={job} work={work} />;
  return (
    <>
      <JobHead title={job.name} job={{ id: job.id, missing: undefined }} />
      <p className="quiet">
        {work.sheet.next
          ? t.progress(work.sheet.done, work.sheet.steps.length)
          : words.jobSheet.allDone[shapes[job.plan.blank.shape].then]}{' '}
        · <Sending />
      </p>
      <Refused />
      {job.archived && <p className="notice">{t.isAway}</p>}
      <FormNotice answer={actionData} text={words.errors.form} />
      <OtherSize job={job} work={work} />
      <HabitOffers job={job} />
      <DidItHelp work={work} />
      <Rests job={job} work={work} />
      <TroubleList troubles={job.troubles.filter((x) => x.grade === 'not')} />
      <div className="sheet-page">
        <StepPanel job={job} work={work} answer={actionData} />
        <SheetList job={job} work={work}>
          <OwnSteps job={job} answer={actionData} />
        </SheetList>
      </div>
      <WriteForm what="repeat" className="above-32">
        <Button type="submit">{t.repeat}</Button>
      </WriteForm>
      <WriteForm what={job.archived ? 'take up' : 'put away'} className="above-8">
        <Button type="submit" variant="text">
          {job.archived ? t.takeUp : t.putAway}
        </Button>
      </WriteForm>
    </>
  );
}

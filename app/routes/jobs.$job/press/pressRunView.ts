import type { QueueStep } from '#core/job/index.ts';
import { minutes } from '#core/press/index.ts';
import { words } from '../../../messages/index.ts';
import { isolate } from '../../../ui/base/format.ts';
import { pressSetting } from '../../../ui/jobs/pressSetting.ts';
import { shapes } from '#core/place/index.ts';
import { isLastPress, layersWord } from '../sayStep.ts';
import type { Job } from '../useSheet.ts';
import { closedFor } from './openedEarly.ts';
import { BEHIND, type Live } from './useLive.ts';
import type { Run } from './useRun.ts';
import { heatInBoth, capitalise } from '#core/units/index.ts';

/** What the run shows for its turn: a title, lines, the big button, and what that says. */
export type PressRunView = {
  does: 'agree' | 'heat' | 'close' | 'next' | 'open' | 'peel' | 'ask' | 'hand' | undefined;
  step: QueueStep | undefined;
  title: string;
  lines: string[];
  button: string;
  /** Whether its time has come. */
  over: boolean;
  /** The clock that runs: since when, for how long, s, and what it counts. */
  clock: { due: number; seconds: number; says: string } | undefined;
  heat: number | undefined;
  /** What is set if the display reads the other scale; undefined where it reads none: a press that is set by words. */
  other: string | undefined;
  /** The scale whose number the big button bears. */
  shows: 'C' | 'F';
  /** Whether the plate has not come back to its heat yet: the next piece waits for it. */
  behind: boolean;
  /** Whether a carrier may come up with its film now. */
  canComeUp: boolean;
  /** What else may be said beside the big button: that what was opened early is enough; to a question, no. */
  also: { says: string; does: 'enough' | 'close' } | undefined;
};

/** A number and its unit stay on one line. */
const unbroken = (s: string) => s.replaceAll(' ', '\u00a0');

/** What is said while the press is closed on something, and when its time is over. */
function closedTitle(plan: Job['press'][number], part: number, over: boolean, what: string, piece: string): string {
  const t = words.pressRun.closed;
  const more = part < plan.parts;
  if (over) return more ? t.next(part + 1, plan.parts) : t.now;
  if (plan.seconds === undefined) return t.leaflet;
  if (more) return t.moves(what, part, plan.parts);
  if (plan.does === 'before') return t.warms(piece);
  return plan.purpose === 'raise' ? t.rises(what) : t.title(what);
}

/** The turn in words. One sentence, one button; what else matters in a line or two. */
export function pressRunView(
  job: Job,
  run: Run,
  unit: 'C' | 'F',
  agreed: boolean,
  shown: 'C' | 'F' | undefined,
  live?: Live,
): PressRunView {
  const t = words.pressRun;
  const p = words.jobSheet.pressing;
  const { turn, now } = run;
  const base: PressRunView = {
    does: undefined,
    step: undefined,
    title: '',
    lines: [],
    button: '',
    over: false,
    clock: undefined,
    heat: undefined,
    other: undefined,
    shows: shown ?? job.pressPlan.source?.shows ?? unit,
    canComeUp: false,
    behind: false,
    also: undefined,
  };
  if (turn.do === 'done')
    return {
      ...base,
      title: t.done.title,
      lines: shapes[job.plan.blank.shape].then.endsWith('washed') ? [t.done.text] : [],
      button: t.done.button,
    };
  if (turn.do === 'elsewhere')
    return { ...base, title: t.elsewhere.title, lines: [t.elsewhere.text], button: t.elsewhere.button };
  const { step } = turn;
  const plan = job.press[step.press]!;
  const what = layersWord(job, plan.layers);
  const tips = job.tips.press[step.press]!;
  // Its carrier is peeled, where it has one; else a cover is lifted.
  const peels = plan.does === 'layer' && plan.lifts === 'carrier';
  const piece = run.piece(step);
  if (!agreed)
    return {
      ...base,
      does: 'agree',
      step,
      title: t.refused.title,
      lines: [...job.pressPlan.because.map((b) => b.says), ...job.pressPlan.helps.map((h) => h.says)],
      button: t.refused.button,
    };
  switch (turn.do) {
    case 'heat': {
      const source = job.pressPlan.source;
      const { set, off } = pressSetting({ ...plan, heat: turn.heat }, source, base.shows)!;
      const byWord = source?.words === true;
      const name = source ? isolate(source.name) : t.heat.press;
      return {
        ...base,
        does: 'heat',
        step,
        title: turn.from === undefined ? t.heat.title(unbroken(set), name) : t.heat.title2(unbroken(set)),
        lines: [
          ...(turn.from === undefined
            ? []
            : [t.heat.from(heatInBoth(turn.from, base.shows)[0], minutes(plan.change?.seconds ?? 120))]),
          ...(off ? [t.heat.off(heatInBoth(turn.heat, base.shows)[0])] : []),
          ...(byWord ? [] : [live ? t.heat.askSet : t.heat.ask]),
          t.heat.hot,
        ],
        button: byWord ? t.heat.isSet : live ? t.heat.setTo(set) : t.heat.shows(set),
        other: byWord
          ? undefined
          : (live ? t.heat.setTo : t.heat.shows)(
              pressSetting({ ...plan, heat: turn.heat }, source, base.shows === 'F' ? 'C' : 'F')!.set,
            ),
        heat: turn.heat,
      };
    }
    case 'load': {
      if (plan.byHand)
        return {
          ...base,
          does: 'hand',
          step,
          title: words.jobSheet.backing(what),
          lines: plan.says,
          button: words.jobSheet.done,
          over: true,
        };
      const title = {
        before: t.load.before(piece),
        layer: t.load.layer(what, piece),
        last: capitalise(t.load.last(piece)),
        raise: t.load.raise(what, piece),
        after: capitalise(t.load.after(piece)),
        back: t.load.back(piece),
        'backing off': '',
      }[plan.does];
      if (plan.ask && step.rest === undefined)
        return {
          ...base,
          does: 'ask',
          step,
          title: plan.ask,
          lines: [t.asked.look],
          button: t.asked.yes,
          over: true,
          also: { says: t.asked.no(plan.seconds ?? 0), does: 'close' },
        };
      if (step.rest !== undefined) {
        const was = closedFor(plan.seconds, step.rest);
        return {
          ...base,
          does: 'close',
          step,
          title: t.load.again(step.rest),
          lines: [t.load.early(was, plan.seconds ?? 0, plan.does === 'before')],
          button: t.load.againButton(step.rest),
          over: true,
          also: { says: t.load.enough, does: 'enough' },
        };
      }
      // Time counts from a plate that has its heat.
      if (live && plan.heat !== undefined && live.celsius < plan.heat / 1000 - BEHIND)
        return {
          ...base,
          does: 'close',
          step,
          title: t.behind.title(unbroken(heatInBoth(live.celsius * 1000, base.shows)[0])),
          lines: [t.behind.text(heatInBoth(plan.heat, base.shows)[0])],
          button: t.behind.anyway,
          behind: true,
        };
      return {
        ...base,
        does: 'close',
        step,
        title,
        lines: [
          ...tips.before,
          ...(plan.does === 'before'
            ? tips.before.length === 0
              ? [t.load.beforeHow]
              : []
            : plan.does === 'layer'
              ? [t.load.layerHow]
              : []),
          ...(plan.cover ? [`${capitalise(p.cover(plan.cover))}.`] : []),
          // A tip says it already, where there is one.
          ...(plan.support === 'hard board' && !tips.board ? [t.board] : []),
          ...(plan.parts > 1 ? [t.load.parts(plan.parts)] : []),
          ...(job.pressPlan.source?.kind === 'iron' ? [t.load.iron] : []),
        ],
        button: t.load.button,
        over: true,
      };
    }
    case 'open': {
      const over = plan.seconds !== undefined && now >= turn.due;
      // A design larger than the plate: the next part, until all of it was pressed, each for its whole time.
      const more = step.part < plan.parts;
      return {
        ...base,
        does: more && over ? 'next' : 'open',
        step,
        title: closedTitle(plan, step.part, over, capitalise(what || piece), capitalise(piece)),
        lines: [
          plan.parts > 1 ? (more ? t.closed.overlap : t.closed.last(plan.parts)) : '',
          plan.purpose === 'raise'
            ? t.then
            : plan.does === 'layer' && plan.lifts === 'cover'
              ? t.closed.cover(plan.wait)
              : peels && plan.peel && plan.peel !== 'by the leaflet'
                ? `Then ${p.peel(plan.peel).toLowerCase()}${plan.wait > 0 ? `, in ${plan.wait} s` : ', at once'}.`
                : '',
        ].filter(Boolean),
        button: more && over ? t.closed.nextButton : t.closed.button,
        over,
        clock:
          plan.seconds === undefined
            ? undefined
            : { due: turn.due, seconds: step.needs ?? plan.seconds, says: t.closed.says },
      };
    }
    case 'peel': {
      const over = now >= turn.due;
      const last = isLastPress(job, step.press);
      const how = peels
        ? plan.peel && plan.peel !== 'by the leaflet'
          ? p.peel(plan.peel).toLowerCase()
          : 'peel'
        : t.cools.lift.toLowerCase();
      const title = !over
        ? capitalise(t.cools.wait(piece))
        : last
          ? capitalise(t.came.title(piece))
          : capitalise(t.cools.title(piece, how));
      return {
        ...base,
        does: 'peel',
        step,
        title,
        lines: [
          ...tips.opened,
          ...(peels && over ? [`${last ? `${capitalise(how)}. ` : ''}${t.cools.roll}`] : []),
          ...(plan.then && over ? [plan.then] : []),
        ],
        button: last ? t.came.button : peels ? t.cools.button : t.cools.lifted,
        over,
        clock: over || plan.wait === 0 ? undefined : { due: turn.due, seconds: step.wait, says: t.cools.says },
        canComeUp: plan.does === 'layer',
      };
    }
  }
}

import type { CSSProperties } from 'react';
import { words } from '../../../messages/index.ts';
import { bothLengths, clockOf } from '../../../ui/base/format.ts';
import { pressSetting } from '../../../ui/jobs/pressSetting.ts';
import { OnBlank } from '../../../ui/jobs/OnBlank.tsx';
import { useLengthUnit, useNumberStyle } from '../../../ui/people/usePerson.ts';
import { saySource } from '../../../ui/vinyls/sayPress.ts';
import { saidOf } from '../saidOf.ts';
import type { Job } from '../useSheet.ts';
import type { PressRunView } from './pressRunView.ts';
import type { Live } from './useLive.ts';
import type { Run } from './useRun.ts';
import { heatInBoth } from '#core/units/index.ts';

/** The left half: a ring that closes while something runs, else the piece with what lies on it and what is laid now. */
export function RunFace({
  job,
  run,
  turned,
  live,
}: {
  job: Job;
  run: Run;
  turned: PressRunView;
  live: Live | undefined;
}) {
  const t = words.jobSheet.pressing;
  const { step } = turned;
  const plan = step && job.press[step.press];
  const facts =
    plan &&
    [plan.pressure && `${t.pressure[plan.pressure]}${plan.hand ? ` (${plan.hand})` : ''}`, t.under[plan.support]]
      .filter(Boolean)
      .join(' · ');
  const on = job.pressPlan.source;
  const heat = plan && pressSetting(plan, on, turned.shows);
  return (
    <div className="run-face">
      {turned.clock ? (
        <Ring left={turned.clock.due - run.now} seconds={turned.clock.seconds} says={turned.clock.says} />
      ) : turned.does === 'heat' ? (
        <BigHeat {...pressSetting({ ...plan!, heat: turned.heat }, on, turned.shows)!} />
      ) : step ? (
        <Laid job={job} piece={step.piece} upTo={step.press} />
      ) : null}
      {plan && turned.does !== 'heat' && turned.does !== 'agree' && (
        <p className="run-facts">
          <strong>{heat ? heat.set : t.byLeaflet}</strong> {heat && <span className="quiet">{heat.really} · </span>}
          {facts}
          {plan.by && <span className="quiet"> · {saySource({ source: plan.by, by: saidOf(job, plan)?.by })}</span>}
        </p>
      )}
      {plan?.over && <p className="care-line">{plan.over}</p>}
      {live && (
        <p className="run-live" data-testid="run-live">
          {words.pressRun.live(heatInBoth(live.celsius * 1000, turned.shows)[0])}
          {live.simulated && <span className="quiet"> {words.pressRun.simulated}</span>}
        </p>
      )}
    </div>
  );
}

/** What is set, as wide as the half it stands in: a word of one's own press, or degrees; what that is below. */
function BigHeat({ set, really, off }: { set: string; really: string; off: boolean }) {
  return (
    <p className="run-heat" style={{ '--letters': Math.max(6, set.length) } as CSSProperties}>
      <span>{set}</span>
      {/* What a display that is off really has is said beside it: one number stands large. */}
      {!off && <span className="quiet">{really}</span>}
    </p>
  );
}

/** A ring that closes, and the seconds that are left. */
function Ring({ left, seconds, says }: { left: number; seconds: number; says: string }) {
  const round = 2 * Math.PI * 88;
  const shown = Math.max(0, Math.ceil(left / 1000));
  const share = Math.min(1, Math.max(0, left / (seconds * 1000 || 1)));
  return (
    <svg
      className="run-ring"
      viewBox="0 0 200 200"
      role="timer"
      aria-label={`${shown} ${says}`}
      data-testid="run-ring"
      data-left={(left / 1000).toFixed(1)}
    >
      <circle cx="100" cy="100" r="88" className="ring-back" />
      <circle
        cx="100"
        cy="100"
        r="88"
        className="ring"
        strokeDasharray={round}
        strokeDashoffset={round * share}
        transform="rotate(-90 100 100)"
      />
      <text x="100" y="112" textAnchor="middle" className="ring-number" data-long={shown >= 100 || undefined}>
        {clockOf(shown)}
      </text>
      <text x="100" y="140" textAnchor="middle" className="ring-word">
        {left > 0 ? says : words.jobSheet.pressing.over}
      </text>
    </svg>
  );
}

/** The piece with what lies on it already and what is laid now, from the anchor. */
function Laid({ job, piece, upTo }: { job: Job; piece: number; upTo: number }) {
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const { placed } = job;
  if (!placed) return null;
  const there = job.press.slice(0, upTo + 1).flatMap((p) => (p.does === 'layer' ? p.layers : []));
  const shown = job.layers.filter((l) => there.includes(l.id));
  return (
    <OnBlank
      blank={job.plan.blank}
      art={{
        width: job.art.width,
        height: job.art.height,
        layers: shown.map((l) => ({
          id: l.id,
          d: (l.shapes[l.shapes.length === 1 ? 0 : piece] ?? l.shapes[0]!).d,
          hex: l.hex,
        })),
      }}
      placed={placed}
      design={{
        width: job.plan.design!.widthUm,
        height: Math.round((job.plan.design!.widthUm * job.art.height) / job.art.width),
      }}
      mirrored={job.plan.design!.mirrored}
      say={(um) => bothLengths(um, unit, style)[0]}
      large
      bare={shown.length === 0}
    />
  );
}

import { useNumberStyle } from '../../ui/people/usePerson.ts';
import type { ReactNode } from 'react';
import type { CutterEvenness } from '#work/coupons/evenness.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import type { Bench } from '#work/workshop/bench.ts';
import type { Preview } from '#work/coupons/plan.ts';
import { formatPosition, formatSetting, strengthAxis } from '#core/controls/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import { timesInHundred, placeToSet } from '#core/window/index.ts';
import { words } from '../../messages/index.ts';
import { ControlFacts } from '../../ui/workshop/ControlFacts.tsx';
import { FormNotice } from '../../ui/base/Field.tsx';
import { bothSizes } from '../../ui/base/format.ts';
import { WhyThisCoupon } from '../../ui/coupons/WhyThisCoupon.tsx';
import { WindowStrip } from '../../ui/base/WindowStrip.tsx';
import { HANDLING } from '#core/coupon/index.ts';

/** What the coupon is for, what it is expected to teach, how large it is. */
export function Says({
  corner,
  preview,
  cutter,
  evenness,
  unit,
  actionData,
  children,
}: {
  /** It goes into the corner of the film that a job has trimmed. */
  corner: boolean;
  preview: Preview;
  cutter: Bench['cutter'];
  evenness: CutterEvenness | undefined;
  unit: 'mm' | 'in';
  actionData: FormAnswer | undefined;
  /** The form that makes it. */
  children: ReactNode;
}) {
  const t = words.plan;
  const style = useNumberStyle();
  const { plan, sheet, before, wanted, base, mode, also } = preview;
  const axis = strengthAxis(cutter.model);
  const [size, otherSize] = bothSizes(sheet.width + HANDLING, sheet.height + HANDLING, unit, style);
  const now = placeToSet(before.summary).chance;
  const others = cutter.model.axes.filter((a) => a.role !== 'strength');
  const rest = formatSetting(cutter.model, base).filter(
    (p) => p.key !== axis.key && !also.some((role) => role === p.role),
  );
  // The strip is that of the standing way of cutting: cells of another have no place on it.
  const plain = plan.cells.filter((c) => others.every((a) => c.setting.steps[a.key] === base.steps[a.key]));
  const domain = stripDomain(
    axis,
    [before.summary],
    [],
    plain.map((c) => c.position),
  );
  return (
    <div className="says">
      <FormNotice answer={actionData} text={words.errors.form} />
      <p style={{ fontSize: '1.1875rem' }} data-testid="plan-says">
        {mode === 'check' && plan.around
          ? t.says.check(formatPosition(axis, plan.around.position))
          : mode === 'retune' || mode === 'even' || mode === 'decide'
            ? t.says[mode]
            : plan.reason === 'cold'
              ? t.cold
              : t.narrowed}
      </p>
      <WindowStrip
        axis={axis}
        result={before}
        domain={domain}
        planned={plain.map((c) => c.position)}
        scale
        width={420}
      />
      {plan.expected && mode !== 'even' && mode !== 'decide' && (
        <p data-testid="expected">
          {plan.expected.after - plan.expected.now < 0.02
            ? t.hardly(wanted, timesInHundred(now))
            : t.expected(wanted, timesInHundred(now), timesInHundred(now + plan.expected.after - plan.expected.now))}
        </p>
      )}
      {mode !== 'even' && mode !== 'decide' && plan.place && (
        <WhyThisCoupon axis={axis} place={plan.place} domain={domain} />
      )}
      {mode !== 'even' && evenness?.zone && (
        <p className="notice" data-testid="lay-away">
          {words.even.said(evenness)} {words.even.away}
        </p>
      )}
      {plan.cells.length < plan.asked && <p>{t.fewer(plan.cells.length, plan.asked)}</p>}
      <dl className="facts">
        <dt>{t.piece}</dt>
        <dd>
          {corner ? (
            <span data-testid="corner">{t.corner}</span>
          ) : (
            <>
              <span>{t.atLeast}</span> {size} <span>({otherSize})</span>
            </>
          )}
        </dd>
        <ControlFacts parts={rest} />
      </dl>
      {mode !== 'even' && <p className="quiet">{t.low}</p>}
      {children}
    </div>
  );
}

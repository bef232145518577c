import type { Access } from '#work/people/permissions.ts';
import { useMemo } from 'react';
import { shortPosition, strengthAxis } from '#core/controls/index.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { lineOf, sendToCutter, settleCell } from '#work/cuts/line.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { CouponDrawing } from '../../ui/coupons/CouponDrawing.tsx';
import { CouponHead } from '../../ui/coupons/CouponHead.tsx';
import { FormNotice } from '../../ui/base/Field.tsx';
import { Doubtful, LineProgress } from '../../ui/cuts/CutterLine.tsx';
import { useOutbox } from '../../ui/base/outbox.tsx';
import { Sending } from '../../ui/cuts/Sending.tsx';
import { useHandEvents } from '../../ui/base/useHandEvents.ts';
import { useSteady } from '../../ui/base/useSteady.ts';
import { useLookAgain } from '../../ui/base/useLookAgain.ts';
import { vinylHex } from '../../ui/vinyls/vinylName.ts';
import type { Route } from './+types/route';
import { CheckMat } from './CheckMat.tsx';
import { NextCell } from './NextCell.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const coupon = await couponOf(person, args.params.coupon);
  return { coupon, line: await lineOf(person, args.params.coupon) };
}

/** Sends cells to a cutter on a line, or says what became of one that nobody is sure about. */
export function action(args: Route.ActionArgs) {
  const { coupon } = args.params;
  return actions(access, args, {
    send: async ({ person, form }) => {
      await sendToCutter(person, coupon, form);
      return `/coupons/${coupon}/run`;
    },
    settle: async ({ person, form }) => {
      await settleCell(person, coupon, form);
      return `/coupons/${coupon}/run`;
    },
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.coupon.cutIt) }];

/** Leads through the cut, one cell at a time. What is tapped is the record of what was cut. */
export default function Run({ loaderData: { coupon, line }, actionData }: Route.ComponentProps) {
  const { add } = useOutbox();
  const events = useHandEvents(
    'cell',
    coupon.cells.map((c) => c.id),
  );
  const { model } = coupon.cutter;
  const axis = strengthAxis(model);
  const t = words.run;
  const running = line.run?.running === true;
  useLookAgain(running ? 700 : undefined);

  const passes = useMemo(() => {
    const run = new Map(coupon.cells.map((c) => [c.id, c.passesRun]));
    for (const e of events) if (e.kind === 'cut') run.set(e.cell, Math.max(run.get(e.cell) ?? 0, e.passes));
    return run;
  }, [coupon.cells, events]);
  const spoiled = new Set(coupon.cells.filter((c) => c.leftOut).map((c) => c.id));
  const unclear = line.doubtful.filter((d) => d.state === 'unclear');
  const left = coupon.cells.filter(
    (c) => (passes.get(c.id) ?? 0) === 0 && !spoiled.has(c.id) && !unclear.some((u) => u.cell === c.id),
  );
  const next = left[0];
  const { meant, told } = useSteady(next?.id ?? '');
  // Cut over the line, it runs again over the line.
  const byLine = line.takesStrength && line.devices.length > 0 && line.run !== undefined;

  const drawing = (
    <div>
      <CouponDrawing
        sheet={coupon.sheet}
        hex={vinylHex(coupon.vinyl)}
        current={running ? undefined : next?.number}
        cells={coupon.cells.map((c) => {
          const run = passes.get(c.id) ?? 0;
          return {
            number: c.number,
            shown: shortPosition(axis, c.position),
            done: run > 0 || c === next,
            word: spoiled.has(c.id) ? t.leftOut : run > 1 ? `${run} passes` : run > 0 ? 'cut' : '',
          };
        })}
        label={coupon.sheet.mirrored ? words.plan.mirrored : words.plan.straight}
      />
      <p className="legend">{coupon.sheet.mirrored ? words.plan.mirrored : words.plan.straight}</p>
    </div>
  );
  const frame = (content: React.ReactNode) => (
    <>
      <CouponHead coupon={coupon} says={<Sending />} />
      {actionData && <FormNotice answer={actionData} text={words.errors.form} />}
      {line.run && !running && <LineProgress run={line.run} />}
      <div className="run">
        {content}
        {drawing}
      </div>
    </>
  );
  if (running) return frame(<LineProgress run={line.run!} />);
  if (unclear.length > 0) return frame(<Doubtful cells={unclear} />);

  if (!next)
    return frame(
      <CheckMat
        coupon={coupon}
        passes={passes}
        spoiled={spoiled}
        byLine={byLine}
        line={line}
        meant={meant}
        add={add}
      />,
    );
  return frame(<NextCell coupon={coupon} next={next} left={left} line={line} meant={meant} told={told} add={add} />);
}

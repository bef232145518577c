import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { differences } from '#core/grades/index.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { words } from '../../messages/index.ts';
import { enter } from '../../server/enter.server.ts';
import { BenchModeButton } from '../../ui/coupons/benchMode.tsx';
import { CouponDrawing } from '../../ui/coupons/CouponDrawing.tsx';
import { CouponHead } from '../../ui/coupons/CouponHead.tsx';
import { useOutbox } from '../../ui/base/outbox.tsx';
import { Refused, Sending } from '../../ui/cuts/Sending.tsx';
import { useCouponReading } from '../../ui/coupons/useCouponReading.ts';
import { useLookAgain } from '../../ui/base/useLookAgain.ts';
import { vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import type { Route } from './+types/route';
import { useGrading } from './useGrading.ts';
import { GradeStrip } from './GradeStrip.tsx';
import { Differing } from './Differing.tsx';
import { AskCell } from './AskCell.tsx';
import { AllGraded } from './AllGraded.tsx';

export const access = { read: 'look round' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const cell = Number(new URL(args.request.url).searchParams.get('cell'));
  return {
    coupon: await couponOf(person, args.params.coupon),
    // A grade that is put right: its cell is asked again, whatever was said of it.
    cell: Number.isInteger(cell) && cell > 0 ? cell : undefined,
  };
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? vinylTitle(loaderData.coupon.vinyl) : '') },
];

/** One question at a time: lift the waste of this cell, what happens? The strip and the number move as grades come in. */
export default function GradePage({ loaderData: { coupon, cell } }: Route.ComponentProps) {
  const { deviceId } = useOutbox();
  // Another device may be grading the same coupon.
  useLookAgain(8_000);
  const t = words.grading;
  const [turned, setTurned] = useState(false);
  const told = useCouponReading(coupon);
  const { events, dots, result, reading } = told;
  const grading = useGrading(coupon, told, turned, cell);
  const { own, cells, current, graded, undo, pick } = grading;
  const differing = differences(events).filter((d) => own.has(d.cell));

  const drawing = (
    <CouponDrawing
      sheet={coupon.sheet}
      hex={vinylHex(coupon.vinyl)}
      turned={turned}
      current={current?.number}
      onPick={pick}
      cells={cells.map((c) => (c.leftOut ? { ...c, done: false, word: words.run.leftOut } : c))}
      label={turned ? t.turned : t.asOnMat}
    />
  );

  return (
    <>
      <CouponHead coupon={coupon} says={<Sending />} graded={graded > 0} />
      <Refused />
      <div className="grade-layout">
        <div className="grade-sheet">
          {drawing}
          <p className="legend" style={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center' }}>
            {turned ? t.turned : t.asOnMat}
            <Button variant="text" onClick={() => setTurned(!turned)} aria-pressed={turned}>
              {t.turn}
            </Button>
          </p>
        </div>
        <div className="grade-ask">
          {current ? (
            <AskCell coupon={coupon} grading={grading} current={current} />
          ) : (
            <AllGraded coupon={coupon} grading={grading} result={result} />
          )}
          <div style={{ marginTop: 4, display: 'flex', gap: 20, alignItems: 'center', flexWrap: 'wrap' }}>
            <Button variant="text" onClick={undo} disabled={graded === 0}>
              {t.undo}
            </Button>
            <BenchModeButton />
          </div>
        </div>
        <GradeStrip coupon={coupon} grading={grading} result={result} dots={dots} reading={reading} />
      </div>
      {differing.length > 0 && <Differing differing={differing} cells={cells} deviceId={deviceId} />}
    </>
  );
}

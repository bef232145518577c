import Button from '@mui/material/Button';
import { useMemo } from 'react';
import { formatPosition, formatSetting, strengthAxis } from '#core/controls/index.ts';
import { micrometresToMm } from '#core/units/index.ts';
import { vinylTypes } from '#core/vinyls/index.ts';
import { couponOf } from '#work/coupons.ts';
import { words } from '../../messages/index.ts';
import { enter, found } from '../../server/enter.server.ts';
import { ControlFacts } from '../../ui/ControlFacts.tsx';
import { CouponDrawing } from '../../ui/CouponDrawing.tsx';
import { CouponHead } from '../../ui/CouponHead.tsx';
import { GoButton } from '../../ui/Link.tsx';
import { SideDrawing } from '../../ui/SideDrawing.tsx';
import { useOutbox } from '../../ui/outbox.tsx';
import { Sending } from '../../ui/Sending.tsx';
import { useBenchEvents } from '../../ui/useBenchEvents.ts';
import { vinylHex } from '../../ui/vinylName.ts';
import type { Route } from './+types/route';

export async function loader(args: Route.LoaderArgs) {
  const person = await enter('routes/coupons.$coupon.run/route', args);
  return { coupon: await found(couponOf(person, args.params.coupon)) };
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.coupon.cutIt) }];

/** Leads through the cut, one cell at a time. What is tapped is the record of what was cut. */
export default function Run({ loaderData: { coupon } }: Route.ComponentProps) {
  const { add } = useOutbox();
  const events = useBenchEvents(coupon.cells.map((c) => c.id));
  const axis = strengthAxis(coupon.cutter.model);
  const t = words.run;
  const side = vinylTypes[coupon.vinyl.type].cutFrom;

  const passes = useMemo(() => {
    const run = new Map(coupon.cells.map((c) => [c.id, c.passesRun]));
    for (const e of events) if (e.kind === 'cut') run.set(e.cell, Math.max(run.get(e.cell) ?? 0, e.passes));
    return run;
  }, [coupon.cells, events]);
  const next = coupon.cells.find((c) => (passes.get(c.id) ?? 0) === 0);
  const strongest = coupon.cells.at(-1)!;
  const strongestPasses = passes.get(strongest.id) ?? 0;

  const drawing = (
    <div>
      <CouponDrawing
        sheet={coupon.sheet}
        hex={vinylHex(coupon.vinyl)}
        current={next?.number}
        cells={coupon.cells.map((c) => ({
          number: c.number,
          shown: formatPosition(axis, c.position),
          done: (passes.get(c.id) ?? 0) > 0 || c === next,
          word: (passes.get(c.id) ?? 0) > 0 ? 'cut' : '',
        }))}
        label={coupon.sheet.mirrored ? words.plan.mirrored : words.plan.straight}
      />
      <p className="legend">{coupon.sheet.mirrored ? words.plan.mirrored : words.plan.straight}</p>
    </div>
  );

  if (!next)
    return (
      <>
        <CouponHead coupon={coupon} says={<Sending />} />
        <div className="run">
          <div style={{ fontSize: '1.25rem' }}>
            <h2 style={{ fontSize: '2rem' }}>{t.check}</h2>
            <p style={{ margin: '16px 0 24px', maxWidth: '44ch' }}>
              {strongestPasses > 1 ? t.again(strongest.number, strongestPasses) : t.checkWhy(strongest.number)}
            </p>
            <div className="actions" style={{ marginTop: 0 }}>
              <GoButton to={`/coupons/${coupon.id}/grade`} variant="contained">
                {t.checkYes}
              </GoButton>
              {strongestPasses < 4 && (
                <Button
                  onClick={() => {
                    // What the lifted corner showed is evidence too, at the passes run so far.
                    add({ kind: 'grade', cell: strongest.id, figure: 1, passes: strongestPasses, grade: 'uncut' });
                    add({ kind: 'cut', cell: strongest.id, passes: strongestPasses + 1 });
                  }}
                >
                  {t.checkAgain(strongest.number)}
                </Button>
              )}
            </div>
            {strongestPasses > 1 && (
              <div className="actions">
                <Button
                  component="a"
                  variant="text"
                  href={`/coupons/${coupon.id}/coupon.svg?cell=${strongest.number}`}
                  download
                >
                  {t.get(strongest.number)}
                </Button>
              </div>
            )}
          </div>
          {drawing}
        </div>
      </>
    );

  const place = coupon.sheet.cells.find((c) => c.number === next.number)!;
  const xs = place.paths.flatMap((p) => p.points.map(([x]) => x));
  const rest = formatSetting(coupon.cutter.model, place.setting).slice(1);
  const first = next === coupon.cells[0];
  return (
    <>
      <CouponHead coupon={coupon} says={<Sending />} />
      <div className="run">
        <div>
          <p className="section-word" role="status">
            {t.title(next.number, coupon.cells.length)}
          </p>
          <h2 style={{ fontSize: '1.5rem' }}>
            <span className="visually-hidden">{t.set(axis.word, formatPosition(axis, next.position))}</span>
            <span aria-hidden="true">
              Set {axis.word} to{' '}
              <span className="big" style={{ display: 'block', marginTop: 8 }}>
                {formatPosition(axis, next.position)}
              </span>
            </span>
          </h2>
          <dl
            className="facts"
            style={{
              margin: '20px 0 28px',
              gridTemplateColumns: 'max-content max-content max-content max-content',
              fontSize: '1.125rem',
            }}
          >
            <ControlFacts parts={rest} />
          </dl>
          <div className="actions" style={{ marginTop: 0 }}>
            <Button component="a" href={`/coupons/${coupon.id}/coupon.svg?cell=${next.number}`} download>
              {t.get(next.number)}
            </Button>
            <Button variant="contained" onClick={() => add({ kind: 'cut', cell: next.id, passes: 1 })}>
              {next === strongest ? t.doneLast : t.done}
            </Button>
          </div>
          <p className="quiet" style={{ marginTop: 24 }}>
            {t.leave}
          </p>
          <p className="quiet small" style={{ marginTop: 8 }}>
            {t.place(`${micrometresToMm(Math.min(...xs))} mm`, `${micrometresToMm(place.y)} mm`)}
          </p>
          {first && (
            <section style={{ marginTop: 32, display: 'flex', gap: 24, flexWrap: 'wrap' }} aria-labelledby="first">
              <div style={{ flex: '1 1 280px' }}>
                <h2 id="first">{t.first}</h2>
                <p style={{ marginTop: 8 }}>{t.side[side]}</p>
                <p style={{ marginTop: 8 }}>{t.mirror[side]}</p>
              </div>
              <SideDrawing hex={vinylHex(coupon.vinyl)} back={side === 'back'} />
            </section>
          )}
        </div>
        {drawing}
      </div>
    </>
  );
}

import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { useMemo } from 'react';
import { cutFileKinds } from '#core/cutfile/index.ts';
import { formatPosition, formatSetting, sayStrength, shortPosition, strengthAxis } from '#core/controls/index.ts';
import { micrometresToMm } from '#core/units/index.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { lineOf, sendToCutter, settleCell } from '#work/cuts/line.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { BenchModeButton } from '../../ui/coupons/benchMode.tsx';
import { ToSet } from '../../ui/workshop/ControlDrawing.tsx';
import { ControlFacts } from '../../ui/workshop/ControlFacts.tsx';
import { CouponDrawing } from '../../ui/coupons/CouponDrawing.tsx';
import { CouponHead } from '../../ui/coupons/CouponHead.tsx';
import { FormNotice } from '../../ui/base/Field.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { Doubtful, LineProgress, SendButton } from '../../ui/cuts/CutterLine.tsx';
import { SideDrawing } from '../../ui/vinyls/SideDrawing.tsx';
import { useOutbox } from '../../ui/coupons/outbox.tsx';
import { Sending } from '../../ui/cuts/Sending.tsx';
import { useBenchEvents } from '../../ui/coupons/useBenchEvents.ts';
import { useSteady } from '../../ui/base/useSteady.ts';
import { useLookAgain } from '../../ui/base/useLookAgain.ts';
import { vinylHex } from '../../ui/vinyls/vinylName.ts';
import type { Route } from './+types/route';

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

const MOST_PASSES = 4;

/** Leads through the cut, one cell at a time. What is tapped is the record of what was cut. */
export default function Run({ loaderData: { coupon, line }, actionData }: Route.ComponentProps) {
  const { add } = useOutbox();
  const events = useBenchEvents(coupon.cells.map((c) => c.id));
  const { model } = coupon.cutter;
  const axis = strengthAxis(model);
  const t = words.run;
  const { cutFrom, side } = coupon.vinyl.behaviour;
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
  const strongest = coupon.cells.at(-1)!;
  const planned = next?.planned ?? 1;
  // Cells of other passes go out after these: a run has one number of passes.
  const alike = left.filter((c) => c.planned === planned);
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
      <div style={{ fontSize: '1.25rem' }}>
        <h2 style={{ fontSize: '2rem' }}>{t.check}</h2>
        <p style={{ margin: '16px 0 24px', maxWidth: '44ch' }}>{t.checkWhy(strongest.number)}</p>
        <div className="actions" style={{ marginTop: 0 }}>
          <GoButton to={`/coupons/${coupon.id}/grade`} variant="contained">
            {t.checkYes}
          </GoButton>
        </div>
        <p style={{ margin: '36px 0 12px', fontWeight: 700 }}>{t.whichAgain}</p>
        <div className="again">
          {[...coupon.cells].reverse().map((cell) => {
            const run = passes.get(cell.id) ?? 0;
            if (run === 0 || run >= MOST_PASSES || spoiled.has(cell.id)) return null;
            const label = t.checkAgain(cell.number, sayStrength(axis, cell.position), run + 1);
            return byLine ? (
              <SendButton key={cell.id} device={line.devices[0]!} cells={[cell.number]} pass={run + 1} label={label} />
            ) : (
              <Button
                key={cell.id}
                onClick={() => {
                  if (!meant()) return;
                  // What the lifted corner showed is evidence too, at the passes run so far.
                  add({ kind: 'grade', cell: cell.id, figure: 1, passes: run, grade: 'uncut' });
                  add({ kind: 'cut', cell: cell.id, passes: run + 1 });
                }}
              >
                {label}
              </Button>
            );
          })}
        </div>
        {!byLine && (
          <p className="quiet" style={{ marginTop: 12, fontSize: '1.0625rem' }}>
            {t.again}
          </p>
        )}
      </div>,
    );

  const place = coupon.sheet.cells.find((c) => c.number === next.number)!;
  const xs = place.paths.flatMap((p) => p.points.map(([x]) => x));
  const rest = formatSetting(model, place.setting).filter((p) => p.key !== axis.key);
  const first = next === coupon.cells[0];
  const file = (kind: string) => `/coupons/${coupon.id}/files/coupon.${kind}?cell=${next.number}`;
  return frame(
    <div>
      <p className="section-word" role="status">
        {t.title(next.number, coupon.cells.length)}
      </p>
      <h2 className="visually-hidden">{t.set(axis.word, formatPosition(axis, next.position))}</h2>
      <p aria-hidden="true" style={{ font: '700 1.5rem/1.2 var(--heading)', marginBottom: 8 }}>
        Set {axis.word} to
      </p>
      <ToSet axis={axis} position={next.position} />
      <dl className="facts inline">
        <ControlFacts parts={rest} />
      </dl>
      {planned > 1 && <p style={{ marginBottom: 16 }}>{t.twice(planned)}</p>}
      <div className="actions" style={{ marginTop: 0 }}>
        <Button component="a" href={file('svg')} download>
          {t.get(next.number)}
        </Button>
        <Button variant="contained" onClick={() => meant() && add({ kind: 'cut', cell: next.id, passes: planned })}>
          {left.length === 1 ? t.doneLast : t.done}
        </Button>
        <BenchModeButton />
      </div>
      <p className="notice" role="status" hidden={!told}>
        {t.justChanged}
      </p>
      <details>
        <summary>{t.other}</summary>
        <div className="actions" style={{ marginTop: 0 }}>
          {cutFileKinds
            .filter((k) => k !== 'svg')
            .map((kind) => (
              <Button key={kind} component="a" href={file(kind)} download>
                {words.coupon.files[kind]}
              </Button>
            ))}
        </div>
      </details>
      {line.devices.map((device) => (
        <section key={device.key} className="line" aria-label={t.send.title(device.name)}>
          <h2>
            {t.send.title(device.name)} {device.simulated && <span className="tag">{t.send.simulated}</span>}
          </h2>
          <p className="quiet" style={{ margin: '4px 0 12px' }}>
            {line.takesStrength ? t.send.allWhy : t.send.oneWhy(sayStrength(axis, next.position))}
          </p>
          <SendButton
            device={device}
            cells={line.takesStrength ? alike.map((c) => c.number) : [next.number]}
            pass={planned}
            label={line.takesStrength ? t.send.all(alike.length) : t.send.one(next.number)}
          />
        </section>
      ))}
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
            <p style={{ marginTop: 8 }}>
              {words.side[side].says} {words.side[side].sure}
            </p>
            <p style={{ marginTop: 8 }}>{t.mirror[cutFrom]}</p>
          </div>
          <SideDrawing hex={vinylHex(coupon.vinyl)} side={side} />
        </section>
      )}
    </div>,
  );
}

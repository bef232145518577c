import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { Form, useSearchParams, useSubmit } from 'react-router';
import { formatPosition, formatSetting, strengthAxis } from '#core/controls/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import { timesInHundred } from '#core/window/index.ts';
import { cellLimits, planModes } from '#core/planner/index.ts';
import { makeCoupon, planWish, previewCoupon } from '#work/coupons/plan.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { countAsked } from '#work/people/limits.ts';
import { evennessOfCutter } from '#work/coupons/evenness.ts';
import { stockOfVinyl } from '#work/vinyls/stock.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { priorOf } from '#work/shelf/prior.ts';
import { words } from '../../messages/index.ts';
import { actions, addressOf, benchHere, enter } from '../../server/enter.server.ts';
import { ControlFacts } from '../../ui/workshop/ControlFacts.tsx';
import { CouponDrawing } from '../../ui/coupons/CouponDrawing.tsx';
import { ControlField } from '../../ui/workshop/ControlFields.tsx';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { bothLengths, bothSizes } from '../../ui/base/format.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { useLengthUnit } from '../../ui/people/usePerson.ts';
import { typeWord, vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import { WhyThisCoupon } from '../../ui/coupons/WhyThisCoupon.tsx';
import { WindowStrip } from '../../ui/base/WindowStrip.tsx';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** Room left round a sheet so that it can be put down by hand, µm. */
const AROUND = 6_000;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const query = new URL(args.request.url).searchParams;
  const bench = await benchHere(args);
  const id = query.get('vinyl');
  if (id !== null) countAsked('plan', person, addressOf(args.context));
  const vinyl = id === null ? undefined : await vinylOf(person, id, query.get('colour') ?? undefined);
  const [stock, evenness] = await Promise.all([
    vinyl ? stockOfVinyl(person, vinyl.id) : [],
    bench && evennessOfCutter(person, bench.cutter.id),
  ]);
  if (!bench?.blade || !vinyl)
    return { vinyl, stock, evenness, cutter: bench?.cutter, preview: undefined, wrong: undefined };
  const form = new FormData();
  for (const [key, value] of query) form.append(key, value);
  try {
    const prior = await priorOf(person, bench, form);
    const preview = await previewCoupon(person, bench, vinyl, await planWish(person, bench, vinyl, form, prior));
    return { vinyl, stock, evenness, cutter: bench.cutter, preview, wrong: undefined };
  } catch (error) {
    if (!(error instanceof Invalid)) throw error;
    // A control in the address that the cutter does not have: said at its field, the plan is that of the standing controls.
    const wish = await planWish(person, bench, vinyl, new FormData());
    const wrong = { fields: error.fields, values: Object.fromEntries(query) };
    return {
      vinyl,
      stock,
      evenness,
      cutter: bench.cutter,
      preview: await previewCoupon(person, bench, vinyl, wish),
      wrong,
    };
  }
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    make: async ({ person, form }) => {
      const bench = await benchOf(person);
      if (!bench) throw new NotFound('There is no cutter on the bench.');
      const prior = await priorOf(person, bench, form);
      return `/coupons/${await makeCoupon(person, bench, String(form.get('vinyl')), form, { prior })}`;
    },
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.plan.title) }];

export default function PlanCoupon({ loaderData, actionData }: Route.ComponentProps) {
  const { vinyl, stock, evenness, cutter, preview, wrong } = loaderData;
  const [query] = useSearchParams();
  const card = query.get('card');
  const t = words.plan;
  const submit = useSubmit();
  const unit = useLengthUnit();
  if (!vinyl || !preview || !cutter)
    return (
      <>
        <h1>{t.title}</h1>
        <p className="lede" style={{ marginTop: 12 }}>
          {vinyl ? t.noBench : t.noVinyl}
        </p>
        <div className="actions">
          <GoButton to={vinyl ? '/workshop/cutters/new' : '/vinyls'} variant="contained">
            {vinyl ? words.bench.start : words.coupons.choose}
          </GoButton>
        </div>
      </>
    );
  const { plan, sheet, before, wanted, base, mode, also } = preview;
  const axis = strengthAxis(cutter.model);
  const [size, otherSize] = bothSizes(sheet.width + AROUND, sheet.height + AROUND, unit);
  const now = (before.summary.recommended ?? before.summary.best).chance;
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
    <>
      <div className="head">
        <Swatch
          type={vinyl.type}
          hex={vinylHex(vinyl)}
          size={64}
          standing={plan.reason === 'cold' ? 'draft' : 'tried'}
        />
        <div>
          <h1>{t.title}</h1>
          <p className="quiet">
            {vinylTitle(vinyl)} · {typeWord(vinyl)}
          </p>
        </div>
      </div>
      <div className="plan">
        <div className="plan-sheet">
          <CouponDrawing
            sheet={sheet}
            hex={vinylHex(vinyl)}
            cells={plan.cells.map((c) => ({ number: c.number, shown: c.shown }))}
            label={sheet.mirrored ? t.mirrored : t.straight}
          />
          <p className="legend">{sheet.mirrored ? t.mirrored : t.straight}</p>
        </div>
        <div className="says">
          <FormNotice answer={actionData} text={words.errors.form} />
          <p style={{ fontSize: '1.1875rem' }} data-testid="plan-says">
            {mode === 'check' && plan.around
              ? t.says.check(formatPosition(axis, plan.around.position))
              : mode === 'retune' || mode === 'even'
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
          {plan.expected && mode !== 'even' && (
            <p data-testid="expected">
              {plan.expected.after - plan.expected.now < 0.02
                ? t.hardly(wanted, timesInHundred(now))
                : t.expected(
                    wanted,
                    timesInHundred(now),
                    timesInHundred(now + plan.expected.after - plan.expected.now),
                  )}
            </p>
          )}
          {mode !== 'even' && plan.place && <WhyThisCoupon axis={axis} place={plan.place} domain={domain} />}
          {mode !== 'even' && evenness?.zone && (
            <p className="notice" data-testid="lay-away">
              {words.even.said(evenness)} {words.even.away}
            </p>
          )}
          {plan.cells.length < plan.asked && <p>{t.fewer(plan.cells.length, plan.asked)}</p>}
          <dl className="facts">
            <dt>{t.piece}</dt>
            <dd>
              <span>{t.atLeast}</span> {size} <span>({otherSize})</span>
            </dd>
            <ControlFacts parts={rest} />
          </dl>
          {mode !== 'even' && <p className="quiet">{t.low}</p>}
          <WriteForm what="make">
            <input type="hidden" name="vinyl" value={vinyl.id} />
            <input type="hidden" name="cells" value={plan.asked} />
            <input type="hidden" name="wanted" value={wanted} />
            <input type="hidden" name="mode" value={mode} />
            {card && <input type="hidden" name="card" value={card} />}
            {also.map((a) => (
              <input key={a} type="hidden" name="also" value={a} />
            ))}
            {others.map((a) => (
              <input key={a.key} type="hidden" name={`c.${a.key}`} value={formatPosition(a, base.steps[a.key]!)} />
            ))}
            {vinyl.colour && <input type="hidden" name="colour" value={vinyl.colour.id} />}
            <details open={!!actionData?.fields.piece || !!actionData?.fields.batch} style={{ marginBottom: 12 }}>
              <summary>{t.from}</summary>
              <div className="pair" style={{ marginTop: 8 }}>
                {stock.length > 0 && (
                  <Field
                    name="piece"
                    label={words.stock.cutFrom}
                    answer={actionData}
                    select
                    slotProps={{ select: { native: true } }}
                  >
                    <option value="">{words.stock.noPiece}</option>
                    {stock.map((p) => (
                      <option key={p.id} value={p.id}>
                        {[words.stock.kinds[p.kind], p.code, p.vinyl.colour?.name, bothLengths(p.leftUm, unit)[0]]
                          .filter(Boolean)
                          .join(', ')}
                      </option>
                    ))}
                  </Field>
                )}
                <Field name="batch" label={words.stock.batch} answer={actionData} autoComplete="off" />
              </div>
            </details>
            <Button type="submit" variant="contained">
              {t.make}
            </Button>
          </WriteForm>
        </div>
        <Form
          method="get"
          key={JSON.stringify([wanted, base, wrong, mode, also])}
          onChange={(e) => {
            const wish = new FormData(e.currentTarget);
            // Another purpose has its own number of cells.
            if ((e.target as unknown as HTMLInputElement).name === 'mode') wish.delete('cells');
            void submit(wish, { preventScrollReset: true, replace: true });
          }}
          style={{ display: 'grid', gap: 20 }}
        >
          <input type="hidden" name="vinyl" value={vinyl.id} />
          {vinyl.colour && <input type="hidden" name="colour" value={vinyl.colour.id} />}
          {card && <input type="hidden" name="card" value={card} />}
          <fieldset>
            <legend>{t.mode}</legend>
            <div className="choices">
              {planModes
                .filter((m) => m !== 'check' || card)
                .map((m) => (
                  <label className="choice" key={m}>
                    <input type="radio" name="mode" value={m} defaultChecked={mode === m} />
                    <span>{t.modes[m]}</span>
                  </label>
                ))}
            </div>
          </fieldset>
          <fieldset>
            <legend>{t.wanted}</legend>
            <div className="choices">
              {(['clean', 'through'] as const).map((w) => (
                <label className="choice" key={w}>
                  <input type="radio" name="wanted" value={w} defaultChecked={wanted === w} />
                  <span>{w === 'clean' ? t.wantedClean : t.wantedThrough}</span>
                </label>
              ))}
            </div>
          </fieldset>
          {mode !== 'even' && (
            <fieldset>
              <legend>{t.also}</legend>
              <div className="choices">
                {(['passes', 'speed'] as const)
                  .filter((role) => others.some((a) => a.role === role))
                  .map((role) => (
                    <label className="choice" key={role}>
                      <input type="checkbox" name="also" value={role} defaultChecked={also.includes(role)} />
                      <span>{t.alsoWays[role]}</span>
                    </label>
                  ))}
              </div>
            </fieldset>
          )}
          <div className="pair">
            <Field
              name="cells"
              label={t.count}
              answer={undefined}
              initial={String(plan.asked)}
              select
              slotProps={{ select: { native: true } }}
            >
              {Array.from({ length: cellLimits.max - cellLimits.min + 1 }, (_, i) => cellLimits.min + i).map((n) => (
                <option key={n}>{n}</option>
              ))}
            </Field>
            {others.map((a) => (
              <ControlField key={a.key} axis={a} answer={wrong} initial={base.steps[a.key]} />
            ))}
          </div>
          <noscript>
            <button type="submit">{t.show}</button>
          </noscript>
        </Form>
      </div>
    </>
  );
}

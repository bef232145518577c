import type { Access } from '#work/people/permissions.ts';
import { useSearchParams, useSubmit } from 'react-router';
import { cornerOf, makeCoupon, planWish, previewCoupon } from '#work/coupons/plan.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { countAsked } from '#work/people/limits.ts';
import { evennessOfCutter } from '#work/coupons/evenness.ts';
import { stockOfVinyl } from '#work/vinyls/stock.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { fromOthers } from '#work/shelf/prior.ts';
import { words } from '../../messages/index.ts';
import { actions, addressOf, visitorsBench, enter } from '../../server/enter.server.ts';
import { CouponDrawing } from '../../ui/coupons/CouponDrawing.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { sayLength } from '../../ui/base/format.ts';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import { typeWord, vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import { PutOnBench } from '../../ui/workshop/PutOnBench.tsx';
import type { Route } from './+types/route';
import { MakeForm } from './MakeForm.tsx';
import { Says } from './Says.tsx';
import { Wish } from './Wish.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const query = new URL(args.request.url).searchParams;
  const bench = await visitorsBench(args);
  const id = query.get('vinyl');
  if (id !== null) await countAsked('plan', person, addressOf(args.context));
  const vinyl = id === null ? undefined : await vinylOf(person, id, query.get('colour') ?? undefined);
  const [stock, evenness] = await Promise.all([
    vinyl ? stockOfVinyl(person, vinyl.id) : [],
    bench && evennessOfCutter(person, bench.cutter.id),
  ]);
  if (!bench?.blade || !vinyl)
    return { vinyl, corner: false, stock, evenness, cutter: bench?.cutter, preview: undefined, wrong: undefined };
  const form = new FormData();
  for (const [key, value] of query) form.append(key, value);
  try {
    const others = await fromOthers(person, bench, vinyl, form);
    const preview = await previewCoupon(person, bench, vinyl, await planWish(person, bench, vinyl, form, others));
    const corner = await cornerOf(person, query.get('job'), vinyl.id, preview.sheet);
    return { vinyl, corner, stock, evenness, cutter: bench.cutter, preview, wrong: undefined };
  } catch (error) {
    if (!(error instanceof Invalid)) throw error;
    // A control in the address that the cutter does not have: said at its field, the plan is that of the standing controls.
    const wish = await planWish(person, bench, vinyl, new FormData());
    const wrong = { fields: error.fields, values: Object.fromEntries(query) };
    return {
      vinyl,
      corner: false,
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
      const vinyl = await vinylOf(person, String(form.get('vinyl')));
      const others = await fromOthers(person, bench, vinyl, form);
      return `/coupons/${await makeCoupon(person, bench, vinyl.id, form, others)}`;
    },
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.plan.title) }];

export default function PlanCoupon({ loaderData, actionData }: Route.ComponentProps) {
  const { vinyl, corner, stock, evenness, cutter, preview, wrong } = loaderData;
  const [query] = useSearchParams();
  const card = query.get('card');
  const job = query.get('job');
  const t = words.plan;
  const submit = useSubmit();
  const unit = useLengthUnit();
  const style = useNumberStyle();
  if (!vinyl || !preview || !cutter)
    return (
      <>
        <h1>{t.title}</h1>
        <p className="lede above-12">{vinyl ? t.noBench : t.noVinyl}</p>
        <div className="actions">
          {vinyl ? (
            <PutOnBench />
          ) : (
            <GoButton to="/vinyls" variant="contained">
              {words.coupons.choose}
            </GoButton>
          )}
        </div>
      </>
    );
  const { plan, sheet } = preview;
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
          {sheet.finest && (
            <p data-testid="finest">
              {t.finest(sayLength(sheet.finest.bar, unit, style), sayLength(sheet.finest.gap, unit, style))}
            </p>
          )}
        </div>
        <Says corner={corner} preview={preview} cutter={cutter} evenness={evenness} unit={unit} actionData={actionData}>
          <MakeForm
            preview={preview}
            cutter={cutter}
            vinyl={vinyl}
            card={card}
            job={job}
            stock={stock}
            unit={unit}
            actionData={actionData}
          />
        </Says>
        <Wish preview={preview} cutter={cutter} vinyl={vinyl} card={card} job={job} wrong={wrong} submit={submit} />
      </div>
    </>
  );
}

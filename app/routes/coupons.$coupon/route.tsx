import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { cutFileKinds } from '#core/cutfile/index.ts';
import { currentGrades } from '#core/grades/index.ts';
import { shortPosition, strengthAxis } from '#core/controls/index.ts';
import { couponOf, setCouponAside } from '#work/coupons/coupons.ts';
import { putBack, takeOfCut } from '#work/vinyls/stock.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { CouponDrawing } from '../../ui/coupons/CouponDrawing.tsx';
import { nextOf } from '../../ui/coupons/CouponRow.tsx';
import { CouponHead } from '../../ui/coupons/CouponHead.tsx';
import { bothLengths, bothSizes } from '../../ui/base/format.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import { vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const coupon = await couponOf(person, args.params.coupon);
  return { coupon, take: await takeOfCut(coupon.id) };
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    'put back': async ({ person, form }) => {
      await putBack(person, String(form.get('take')));
      return `/coupons/${args.params.coupon}`;
    },
    aside: async ({ person }) => {
      await setCouponAside(person, args.params.coupon, true);
      return '/coupons';
    },
    'take up': async ({ person }) => {
      await setCouponAside(person, args.params.coupon, false);
      return `/coupons/${args.params.coupon}`;
    },
  });
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? vinylTitle(loaderData.coupon.vinyl) : '') },
];

export default function CouponPage({ loaderData: { coupon, take } }: Route.ComponentProps) {
  const axis = strengthAxis(coupon.cutter.model);
  const grades = new Map(currentGrades(coupon.events).map((g) => [g.cell, g.grade]));
  const graded = coupon.cells.filter((c) => grades.has(c.id)).length;
  const next = nextOf({
    id: coupon.id,
    cells: coupon.cells.length,
    graded,
    cut: coupon.cells.filter((c) => c.passesRun > 0).length,
    set_aside_at: coupon.setAside ? new Date(0) : null,
  });
  const { sheet } = coupon;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const [size, otherSize] = bothSizes(sheet.width, sheet.height, unit, style);
  return (
    <>
      <CouponHead coupon={coupon} says={next.says} />
      <div className="cols">
        <div className="plan-sheet">
          <CouponDrawing
            sheet={sheet}
            hex={vinylHex(coupon.vinyl)}
            cells={coupon.cells.map((c) => ({
              number: c.number,
              shown: coupon.plan.cells.find((p) => p.number === c.number)?.shown ?? shortPosition(axis, c.position),
              grade: grades.get(c.id),
            }))}
            label={sheet.mirrored ? words.plan.mirrored : words.plan.straight}
          />
          <p className="legend">{sheet.mirrored ? words.plan.mirrored : words.plan.straight}</p>
        </div>
        <div style={{ display: 'grid', gap: 24 }}>
          {coupon.plan.cells.length < coupon.plan.asked && (
            <p className="notice">{words.plan.fewer(coupon.plan.cells.length, coupon.plan.asked)}</p>
          )}
          {coupon.leftOut && <p className="notice">{words.putRight.is.coupon}</p>}
          {coupon.setAside && <p className="notice">{words.coupon.asideDone}</p>}
          <div>
            <GoButton to={next.to} variant="contained">
              {next.go}
            </GoButton>
          </div>
          <p className="quiet">
            {size} ({otherSize})
          </p>
          {take && (
            <WriteForm what="put back" className="line-up" data-testid="taken">
              <span>{words.stock.takenFor(bothLengths(take.lengthUm, unit, style)[0], take.code)}</span>
              <input type="hidden" name="take" value={take.id} />
              <Button type="submit" variant="text">
                {words.stock.takenBack}
              </Button>
            </WriteForm>
          )}
          <div>
            <p style={{ fontWeight: 600, marginBottom: 8 }}>{words.coupon.download}</p>
            <div className="actions above-0">
              {cutFileKinds.map((kind) => (
                <Button key={kind} component="a" href={`/coupons/${coupon.id}/files/coupon.${kind}`} download>
                  {words.coupon.files[kind]}
                </Button>
              ))}
            </div>
            <p className="legend">{coupon.cutter.model.hpgl ? words.coupon.oneHpgl : words.coupon.one}</p>
          </div>
          {(coupon.setAside || graded < coupon.cells.length) && (
            <WriteForm what={coupon.setAside ? 'take up' : 'aside'}>
              <Button type="submit" variant="text">
                {coupon.setAside ? words.coupon.takeUp : words.coupon.aside}
              </Button>
            </WriteForm>
          )}
        </div>
      </div>
    </>
  );
}

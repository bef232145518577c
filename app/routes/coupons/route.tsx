import type { Access } from '#work/people/permissions.ts';
import { listCoupons } from '#work/coupons/coupons.ts';
import { words } from '../../messages/index.ts';
import { enter } from '../../server/enter.server.ts';
import { CouponRow } from '../../ui/coupons/CouponRow.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  return { coupons: await listCoupons(await enter(access, args)) };
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.coupons.title) }];

export default function Coupons({ loaderData: { coupons } }: Route.ComponentProps) {
  return (
    <>
      <div className="head">
        <h1>{words.coupons.title}</h1>
        <GoButton className="push" to="/vinyls" variant={coupons.length === 0 ? 'contained' : 'outlined'}>
          {words.coupons.choose}
        </GoButton>
      </div>
      {coupons.length === 0 ? (
        <p className="lede">{words.coupons.empty}</p>
      ) : (
        <ul className="rows">
          {coupons.map((c) => (
            <CouponRow key={c.id} coupon={c} />
          ))}
        </ul>
      )}
    </>
  );
}

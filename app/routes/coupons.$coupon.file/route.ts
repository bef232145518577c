import type { Access } from '#work/people/permissions.ts';
import { cutFileKinds } from '#core/cutfile/index.ts';
import { couponFile } from '#work/coupons/coupons.ts';
import { cutFile } from '../../server/cutFile.server.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** The drawing as a file, by its ending: the whole sheet, or one cell with ?cell=3, on the same origin. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const kind = cutFileKinds.find((k) => `coupon.${k}` === args.params.file);
  const asked = new URL(args.request.url).searchParams.get('cell');
  if (!kind || (asked !== null && !/^\d{1,3}$/.test(asked))) throw new Response('No such file.', { status: 404 });
  return cutFile(await couponFile(person, args.params.coupon, kind, asked === null ? undefined : Number(asked)));
}

import { couponFile } from '#work/coupons.ts';
import { enter, found } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

/** The drawing as a file: the whole sheet, or one cell with ?cell=3, on the same origin. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter('routes/coupons.$coupon.file/route', args);
  const asked = new URL(args.request.url).searchParams.get('cell');
  if (asked !== null && !/^\d{1,3}$/.test(asked)) throw new Response('No such cell.', { status: 404 });
  const { name, svg } = await found(couponFile(person, args.params.coupon, asked === null ? undefined : Number(asked)));
  return new Response(svg, {
    headers: {
      'Content-Type': 'image/svg+xml; charset=utf-8',
      'Content-Disposition': `attachment; filename="${name}"`,
      'Cache-Control': 'private, no-store',
      'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'",
      'X-Content-Type-Options': 'nosniff',
    },
  });
}

import { couponFile, fileKinds } from '#work/coupons.ts';
import { enter, found } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

const types = {
  svg: 'image/svg+xml; charset=utf-8',
  hpgl: 'application/vnd.hp-hpgl',
  dxf: 'image/vnd.dxf',
} as const;

/** The drawing as a file, by its ending: the whole sheet, or one cell with ?cell=3, on the same origin. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter('routes/coupons.$coupon.file/route', args);
  const kind = fileKinds.find((k) => `coupon.${k}` === args.params.file);
  const asked = new URL(args.request.url).searchParams.get('cell');
  if (!kind || (asked !== null && !/^\d{1,3}$/.test(asked))) throw new Response('No such file.', { status: 404 });
  const { name, body } = await found(
    couponFile(person, args.params.coupon, kind, asked === null ? undefined : Number(asked)),
  );
  return new Response(body, {
    headers: {
      'Content-Type': types[kind],
      'Content-Disposition': `attachment; filename="${name}"`,
      'Cache-Control': 'private, no-store',
      'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'",
      'X-Content-Type-Options': 'nosniff',
    },
  });
}

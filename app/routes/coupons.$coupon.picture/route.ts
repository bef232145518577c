import type { Access } from '#work/people/permissions.ts';
import { cellPicture } from '#work/cuts/pictures.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** What a cell looks like after weeding, as a simulated cutter shows it. An image and nothing else: no script runs in it. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const pass = Number(new URL(args.request.url).searchParams.get('pass') ?? 9);
  const svg = await cellPicture(person, args.params.coupon, Number(args.params.cell), pass);
  if (svg === undefined) throw new Response('No picture of this cell.', { status: 404 });
  return new Response(svg, {
    headers: {
      'Content-Type': 'image/svg+xml; charset=utf-8',
      'Cache-Control': 'private, no-store',
      'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
      'X-Content-Type-Options': 'nosniff',
    },
  });
}

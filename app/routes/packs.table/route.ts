import type { Access } from '#work/people/permissions.ts';
import { countAsked } from '#work/people/limits.ts';
import { shelfTable } from '#work/packs/tableOut.ts';
import { addressOf, enter } from '../../server/enter.server.ts';
import { originOf } from '../../server/site.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** The public shelf, or what a search finds on it, for spreadsheets. */
export async function loader(args: Route.LoaderArgs) {
  await enter(access, args);
  await countAsked('pack', undefined, addressOf(args.context));
  const table = await shelfTable(new URL(args.request.url).searchParams, originOf(args.request));
  return new Response(table, {
    headers: {
      'Content-Type': 'text/csv; charset=utf-8; header=present',
      'Content-Disposition': 'attachment; filename="shelf.csv"',
      'X-Content-Type-Options': 'nosniff',
    },
  });
}

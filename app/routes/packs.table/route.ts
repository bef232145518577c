import { countPack } from '#work/limits.ts';
import { shelfTable } from '#work/packOut.ts';
import { addressOf, enter, found } from '../../server/enter.server.ts';
import { originOf } from '../../server/origin.server.ts';
import type { Route } from './+types/route';

/** The public shelf, or what a search finds on it, for spreadsheets. */
export async function loader(args: Route.LoaderArgs) {
  await enter('routes/packs.table/route', args);
  const table = await found(() => {
    countPack(addressOf(args.context));
    return shelfTable(new URL(args.request.url).searchParams, originOf(args.request));
  });
  return new Response(table, {
    headers: {
      'Content-Type': 'text/csv; charset=utf-8; header=present',
      'Content-Disposition': 'attachment; filename="shelf.csv"',
      'X-Content-Type-Options': 'nosniff',
    },
  });
}

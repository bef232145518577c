import type { Access } from '#work/people/permissions.ts';
import { countAsked } from '#work/people/limits.ts';
import { listVinyls } from '#work/answer/list.ts';
import { addressOf, visitorsBench, enter } from '../../server/enter.server.ts';
import { leanRows } from '../../server/rows.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** What the find field shows as one types: the few that fit best, for the cutter on the bench. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const q = (new URL(args.request.url).searchParams.get('q') ?? '').trim().slice(0, 200);
  await countAsked('search', person, addressOf(args.context));
  const bench = await visitorsBench(args);
  return { q, rows: leanRows(q ? await listVinyls(person, bench, q, 6) : [], bench?.cutter.model) };
}

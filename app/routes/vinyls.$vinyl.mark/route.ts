import type { Access } from '#work/people/permissions.ts';
import { markFile } from '#work/cuts/cuts.ts';
import { NotFound } from '#work/base/errors.ts';
import { cutFile } from '../../server/cutFile.server.ts';
import { visitorsBench, enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** The test mark of an ordinary cut as a cut file: ?setting=… as the page shows it, the kind by the ending. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const query = new URL(args.request.url).searchParams;
  const bench = await visitorsBench(args);
  if (!bench) throw new NotFound('There is no cutter on the bench.');
  return cutFile(await markFile(person, bench, args.params.vinyl, query.get('setting') ?? '', args.params.kind));
}

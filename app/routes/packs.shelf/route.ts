import type { Access } from '#work/people/permissions.ts';
import { countAsked } from '#work/people/limits.ts';
import { shelfPack } from '#work/packs/packOut.ts';
import { addressOf, enter } from '../../server/enter.server.ts';
import { originOf } from '../../server/site.server.ts';
import { packAnswer } from '../../server/pack.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** The public shelf, or what a search finds on it, as a pack: what other servers follow. */
export async function loader(args: Route.LoaderArgs) {
  await enter(access, args);
  const known = (args.request.headers.get('if-none-match') ?? '').split(',').map((t) => t.trim().replace(/^W\//, ''));
  await countAsked('pack', undefined, addressOf(args.context));
  const { pack, ...about } = await shelfPack(new URL(args.request.url).searchParams, originOf(args.request), known);
  return packAnswer(pack, { ...about, open: true });
}

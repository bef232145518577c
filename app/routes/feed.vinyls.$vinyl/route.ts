import type { Access } from '#work/people/permissions.ts';
import { vinylFeed } from '#work/shelf/feeds.ts';
import { atom } from '../../server/atom.server.ts';
import { enter } from '../../server/enter.server.ts';
import { originOf } from '../../server/site.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** What is shared for a vinyl, as a feed. */
export async function loader(args: Route.LoaderArgs) {
  await enter(access, args);
  const { vinyl } = args.params;
  return atom(args.request, originOf(args.request), `/feed/vinyls/${vinyl}`, await vinylFeed(vinyl));
}

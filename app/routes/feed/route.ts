import type { Access } from '#work/people/permissions.ts';
import { searchFeed } from '#work/shelf/feeds.ts';
import { countAsked } from '#work/people/limits.ts';
import { atom } from '../../server/atom.server.ts';
import { addressOf, enter } from '../../server/enter.server.ts';
import { originOf } from '../../server/site.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** The shelf, or what a search finds on it, as a feed. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const q = (new URL(args.request.url).searchParams.get('q') ?? '').trim().slice(0, 200);
  await countAsked('search', person, addressOf(args.context));
  const feed = await searchFeed(q);
  return atom(args.request, originOf(args.request), `/feed${q ? `?q=${encodeURIComponent(q)}` : ''}`, feed);
}

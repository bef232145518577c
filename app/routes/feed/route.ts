import { searchFeed } from '#work/feeds.ts';
import { countSearch } from '#work/limits.ts';
import { atom } from '../../server/atom.server.ts';
import { addressOf, enter, found } from '../../server/enter.server.ts';
import { originOf } from '../../server/origin.server.ts';
import type { Route } from './+types/route';

/** The shelf, or what a search finds on it, as a feed. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter('routes/feed/route', args);
  const q = (new URL(args.request.url).searchParams.get('q') ?? '').trim().slice(0, 200);
  const feed = await found(async () => {
    countSearch(person, addressOf(args.context));
    return searchFeed(q);
  });
  return atom(args.request, originOf(args.request), `/feed${q ? `?q=${encodeURIComponent(q)}` : ''}`, feed);
}

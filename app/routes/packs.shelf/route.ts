import { Invalid } from '#work/errors.ts';
import { countPack } from '#work/limits.ts';
import { shelfPack } from '#work/packOut.ts';
import { addressOf, enter, found } from '../../server/enter.server.ts';
import { originOf } from '../../server/origin.server.ts';
import { packAnswer } from '../../server/pack.server.ts';
import type { Route } from './+types/route';

/** The public shelf, or what a search finds on it, as a pack: what other servers follow. */
export async function loader(args: Route.LoaderArgs) {
  await enter('routes/packs.shelf/route', args);
  const known = (args.request.headers.get('if-none-match') ?? '').split(',').map((t) => t.trim().replace(/^W\//, ''));
  try {
    const { pack, ...about } = await found(() => {
      countPack(addressOf(args.context));
      return shelfPack(new URL(args.request.url).searchParams, originOf(args.request), known);
    });
    return packAnswer(pack, { ...about, open: true });
  } catch (error) {
    if (error instanceof Invalid) throw new Response(error.message, { status: 400 });
    throw error;
  }
}

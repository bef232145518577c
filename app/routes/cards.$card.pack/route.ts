import type { Access } from '#work/people/permissions.ts';
import { countAsked } from '#work/people/limits.ts';
import { cardPack } from '#work/packs/packOut.ts';
import { addressOf, enter } from '../../server/enter.server.ts';
import { originOf } from '../../server/site.server.ts';
import { packAnswer } from '../../server/pack.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** One card with all that it rests on, as a file. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const licence = new URL(args.request.url).searchParams.get('licence');
  await countAsked('pack', undefined, addressOf(args.context));
  const { name, pack } = await cardPack(person, args.params.card, originOf(args.request), licence);
  return packAnswer(pack, { name, open: false });
}

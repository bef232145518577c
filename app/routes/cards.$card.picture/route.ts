import type { Access } from '#work/people/permissions.ts';
import { countAsked } from '#work/people/limits.ts';
import { cardView } from '#work/shelf/view.ts';
import { NotFound } from '#work/base/errors.ts';
import { addressOf, enter } from '../../server/enter.server.ts';
import { originOf } from '../../server/site.server.ts';
import { postPicture } from '../../server/postPicture.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** A card as a picture for groups and chats. Only what others may see has one. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  await countAsked('picture', person, addressOf(args.context));
  const card = await cardView(person, undefined, args.params.card);
  if (!card.address || card.hidden) throw new NotFound('This card is seen by nobody else: it has no picture.');
  const picture = await postPicture(card, `${originOf(args.request)}/cards/${card.address}`);
  return new Response(new Uint8Array(picture), {
    headers: {
      'Content-Type': 'image/png',
      'Cache-Control': card.visibility === 'public' ? 'public, max-age=300' : 'private, no-store',
    },
  });
}

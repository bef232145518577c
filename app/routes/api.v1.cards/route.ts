import type { Access } from '#work/people/permissions.ts';
import { apiListCards } from '#work/shelf/api.ts';
import { apiAnswer } from '../../server/api.server.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** Public cards as JSON. */
export async function loader(args: Route.LoaderArgs) {
  await enter(access, args);
  return apiAnswer(args, () => apiListCards(new URL(args.request.url).searchParams));
}

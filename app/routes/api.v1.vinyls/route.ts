import type { Access } from '#work/people/permissions.ts';
import { apiListVinyls } from '#work/shelf/api.ts';
import { apiAnswer } from '../../server/api.server.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** Vinyls everybody may see, as JSON. */
export async function loader(args: Route.LoaderArgs) {
  await enter(access, args);
  return apiAnswer(args, () => apiListVinyls(new URL(args.request.url).searchParams));
}

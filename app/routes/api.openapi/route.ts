import type { Access } from '#work/people/permissions.ts';
import { openApi } from '#work/shelf/api.ts';
import { apiAnswer } from '../../server/api.server.ts';
import { enter } from '../../server/enter.server.ts';
import { originOf } from '../../server/site.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** What the public interface takes and gives. */
export async function loader(args: Route.LoaderArgs) {
  await enter(access, args);
  return apiAnswer(args, () => Promise.resolve(openApi(originOf(args.request))));
}

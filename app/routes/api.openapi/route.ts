import { openApi } from '#work/shelf/api.ts';
import { apiAnswer } from '../../server/api.server.ts';
import { enter } from '../../server/enter.server.ts';
import { originOf } from '../../server/site.server.ts';
import type { Route } from './+types/route';

/** What the public interface takes and gives. */
export async function loader(args: Route.LoaderArgs) {
  await enter('routes/api.openapi/route', args);
  return apiAnswer(args, () => Promise.resolve(openApi(originOf(args.request))));
}

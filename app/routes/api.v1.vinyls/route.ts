import { apiListVinyls } from '#work/shelf/api.ts';
import { apiAnswer } from '../../server/api.server.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

/** Vinyls everybody may see, as JSON. */
export async function loader(args: Route.LoaderArgs) {
  await enter('routes/api.v1.vinyls/route', args);
  return apiAnswer(args, () => apiListVinyls(new URL(args.request.url).searchParams));
}

import { apiOneVinyl } from '#work/shelf/api.ts';
import { apiAnswer } from '../../server/api.server.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

/** One vinyl as JSON. */
export async function loader(args: Route.LoaderArgs) {
  await enter('routes/api.v1.vinyls.$vinyl/route', args);
  return apiAnswer(args, () => apiOneVinyl(args.params.vinyl));
}

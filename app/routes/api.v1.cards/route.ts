import { apiListCards } from '#work/shelf/api.ts';
import { apiAnswer } from '../../server/api.server.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

/** Public cards as JSON. */
export async function loader(args: Route.LoaderArgs) {
  await enter('routes/api.v1.cards/route', args);
  return apiAnswer(args, () => apiListCards(new URL(args.request.url).searchParams));
}

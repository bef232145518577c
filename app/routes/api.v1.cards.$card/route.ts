import { apiOneCard } from '#work/shelf/api.ts';
import { apiAnswer } from '../../server/api.server.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

/** One public card as JSON. */
export async function loader(args: Route.LoaderArgs) {
  await enter('routes/api.v1.cards.$card/route', args);
  return apiAnswer(args, () => apiOneCard(args.params.card));
}

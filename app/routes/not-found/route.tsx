import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

/** Any other address. */
export async function loader(args: Route.LoaderArgs) {
  await enter('routes/not-found/route', args);
  throw new Response('There is no such page.', { status: 404 });
}

export default function NotFound() {
  return null;
}

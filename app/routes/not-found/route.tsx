import type { Access } from '#work/people/permissions.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** Any other address. */
export async function loader(args: Route.LoaderArgs) {
  await enter(access, args);
  throw new Response('There is no such page.', { status: 404 });
}

export default function NotFound() {
  return null;
}

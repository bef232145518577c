import type { Access } from '#work/people/permissions.ts';
import { isAwake } from '#work/base/health.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** 200 when the database answers. */
export async function loader(args: Route.LoaderArgs) {
  await enter(access, args);
  try {
    await isAwake();
    return new Response('awake\n', { headers: { 'Cache-Control': 'no-store' } });
  } catch {
    return new Response('the database does not answer\n', { status: 503, headers: { 'Cache-Control': 'no-store' } });
  }
}

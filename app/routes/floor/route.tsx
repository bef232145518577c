import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { isAwake } from '#work/base/health.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** The least a page costs here, for benchmarks to measure others against: one row from the database, one MUI part. */
export async function loader(args: Route.LoaderArgs) {
  await enter(access, args);
  if (process.env.VERSIPEL_BENCH !== '1') throw new Response('There is no such page.', { status: 404 });
  return { awake: await isAwake() };
}

export default function Floor({ loaderData }: Route.ComponentProps) {
  return <Button>{String(loaderData.awake)}</Button>;
}

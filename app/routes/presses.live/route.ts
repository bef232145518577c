import type { Access } from '#work/people/permissions.ts';
import { lineFor, plateNow } from '#work/workshop/livePresses.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** How hot the plate of a press is now, for the run; null where no line says it. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const name = new URL(args.request.url).searchParams.get('press')?.slice(0, 80);
  const line = lineFor(person, name);
  const said = line && (await plateNow(line));
  return Response.json(line && said ? { name: line.name, simulated: line.simulated, ...said } : null, {
    headers: { 'Cache-Control': 'no-store' },
  });
}

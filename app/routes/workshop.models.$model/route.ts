import type { Access } from '#work/people/permissions.ts';
import { modelFile } from '#work/workshop/models.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** The controls of a cutter model as JSON, to be kept or given to somebody. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const { name, body } = await modelFile(person, args.params.model.replace(/\.json$/, ''));
  return new Response(body, {
    headers: {
      'Content-Type': 'application/json; charset=utf-8',
      'Content-Disposition': `attachment; filename="${name}"`,
      'Cache-Control': 'private, no-store',
      'X-Content-Type-Options': 'nosniff',
    },
  });
}

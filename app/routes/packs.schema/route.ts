import type { Access } from '#work/people/permissions.ts';
import { z } from 'zod';
import { packSchema } from '#core/pack/index.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** What a pack is, as JSON Schema 2020-12. */
export async function loader(args: Route.LoaderArgs) {
  await enter(access, args);
  return Response.json(z.toJSONSchema(packSchema, { io: 'input' }), {
    headers: { 'Content-Type': 'application/schema+json', 'Access-Control-Allow-Origin': '*' },
  });
}

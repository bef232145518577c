import { z } from 'zod';
import { packSchema } from '#core/pack/index.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

/** What a pack is, as JSON Schema 2020-12. */
export async function loader(args: Route.LoaderArgs) {
  await enter('routes/packs.schema/route', args);
  return Response.json(z.toJSONSchema(packSchema, { io: 'input' }), {
    headers: { 'Content-Type': 'application/schema+json', 'Access-Control-Allow-Origin': '*' },
  });
}

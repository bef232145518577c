import type { Access } from '#work/people/permissions.ts';
import { alikeVinyls } from '#work/vinyls/alike.ts';
import { countAsked } from '#work/people/limits.ts';
import { addressOf, enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** Vinyls that may be the one that is being named: asked as it is typed. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const name = (new URL(args.request.url).searchParams.get('name') ?? '').trim().slice(0, 200);
  await countAsked('search', person, addressOf(args.context));
  return { name, rows: await alikeVinyls(person, name) };
}

import type { Access } from '#work/people/permissions.ts';
import { paperOf } from '#work/jobs/paper.ts';
import { enter } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** The design at true size with its centre lines, to lay on the blank before anything is cut. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  return new Response(await paperOf(person, args.params.job), {
    headers: {
      'Content-Type': 'image/svg+xml; charset=utf-8',
      'Content-Disposition': 'attachment; filename="true-size.svg"',
      'Cache-Control': 'private, no-store',
    },
  });
}

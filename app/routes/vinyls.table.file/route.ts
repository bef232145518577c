import type { Access } from '#work/people/permissions.ts';
import { tableFile, tableQuery } from '#work/answer/table.ts';
import { enter, visitorsBench } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

const kinds = {
  'vinyls.csv': ['csv', 'text/csv; charset=utf-8; header=present'],
  'vinyls.json': ['json', 'application/json; charset=utf-8'],
} as const;

/** What the table shows, all pages of it, as a file that can be brought in again. CSV: RFC 4180. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const file = args.params.file as keyof typeof kinds;
  if (!Object.hasOwn(kinds, file)) throw new Response('No such file.', { status: 404 });
  const [kind, type] = kinds[file];
  const query = tableQuery.parse(Object.fromEntries(new URL(args.request.url).searchParams));
  return new Response(await tableFile(person, await visitorsBench(args), query, kind), {
    headers: {
      'Content-Type': type,
      'Content-Disposition': `attachment; filename="${file}"`,
      'Cache-Control': 'private, no-store',
      'X-Content-Type-Options': 'nosniff',
    },
  });
}

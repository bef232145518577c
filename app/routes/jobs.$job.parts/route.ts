import type { Access } from '#work/people/permissions.ts';
import { partFile } from '#work/jobs/cut.ts';
import { NotFound } from '#work/base/errors.ts';
import { enter, visitorsBench } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** A part as a cut file: "<part>.svg", ".hpgl" or ".dxf". */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const [, part, kind] = /^([0-9a-f-]{36})\.([a-z]{3,4})$/.exec(args.params.file) ?? [];
  if (!part || !kind || !person) throw new NotFound('No such file.');
  const { name, type, body } = await partFile(person, await visitorsBench(args), args.params.job, part, kind);
  return new Response(body, {
    headers: {
      'Content-Type': type,
      'Content-Disposition': `attachment; filename="${name}"`,
      'Cache-Control': 'private, no-store',
    },
  });
}

import type { Access } from '#work/people/permissions.ts';
import { z } from 'zod';
import { enter } from '../../server/enter.server.ts';
import { codeSvg } from '../../server/paper/qr.server.ts';
import { originOf } from '../../server/site.server.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** The code that opens a vinyl's page, in ink on paper whatever the theme: readers want dark on light. */
export async function loader(args: Route.LoaderArgs) {
  await enter(access, args);
  if (!z.uuid().safeParse(args.params.vinyl).success) throw new Response('No such vinyl.', { status: 404 });
  return new Response(codeSvg(`${originOf(args.request)}/vinyls/${args.params.vinyl}`), {
    headers: {
      'Content-Type': 'image/svg+xml; charset=utf-8',
      // It says an address and nothing else: whether there is such a vinyl is for its page to say.
      'Cache-Control': 'public, max-age=604800',
      'Content-Security-Policy': "default-src 'none'",
    },
  });
}

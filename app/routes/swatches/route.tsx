import type { Access } from '#work/people/permissions.ts';
import { renderToStaticMarkup } from 'react-dom/server';
import { vinylTypeKeys } from '#core/vinyls/index.ts';
import { enter } from '../../server/enter.server.ts';
import { textureFile } from '../../ui/vinyls/Swatch.tsx';
import { Texture } from '../../ui/vinyls/Texture.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** Drawn once a type and process. */
const drawn = new Map<string, string>();

/** The texture of a type of vinyl, to lie over any colour. Kept by browsers for a year: another edition has another name. */
export async function loader(args: Route.LoaderArgs) {
  await enter(access, args);
  const type = vinylTypeKeys.find((t) => textureFile(t) === args.params.file);
  if (!type) throw new Response('No such texture.', { status: 404 });
  const svg =
    drawn.get(type) ??
    renderToStaticMarkup(
      <svg xmlns="http://www.w3.org/2000/svg" width="64" height="64" viewBox="0 0 64 64">
        <Texture type={type} id="t" />
      </svg>,
    );
  drawn.set(type, svg);
  return new Response(svg, {
    headers: {
      'Content-Type': 'image/svg+xml; charset=utf-8',
      'Cache-Control': 'public, max-age=31536000, immutable',
      'Content-Security-Policy': "default-src 'none'",
    },
  });
}

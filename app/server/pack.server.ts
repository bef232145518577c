import { PACK_MEDIA_TYPE, writePack, type Pack } from '#core/pack/index.ts';

/** A pack as a file to keep; with a tag, so that who follows it asks cheaply, and the page after it (RFC 8288). */
export function packAnswer(
  pack: Pack | undefined,
  { name, tag, next, open }: { name: string; tag?: string; next?: string | undefined; open: boolean },
): Response {
  const headers: Record<string, string> = {
    'Cache-Control': open ? 'public, max-age=60' : 'private, no-store',
    'X-Content-Type-Options': 'nosniff',
    ...(open ? { 'Access-Control-Allow-Origin': '*' } : {}),
    ...(tag ? { ETag: tag } : {}),
    ...(next ? { Link: `<${next}>; rel="next"` } : {}),
  };
  if (!pack) return new Response(null, { status: 304, headers });
  return new Response(writePack(pack), {
    headers: {
      ...headers,
      'Content-Type': PACK_MEDIA_TYPE,
      'Content-Disposition': `attachment; filename="${name}.pack.json"`,
    },
  });
}

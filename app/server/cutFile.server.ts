const types = {
  svg: 'image/svg+xml; charset=utf-8',
  hpgl: 'application/vnd.hp-hpgl',
  dxf: 'image/vnd.dxf',
} as const;

/** A cut file to be saved, its kind by its ending. Nothing in it runs in the browser. */
export const cutFile = ({ name, body }: { name: string; body: string }): Response =>
  new Response(body, {
    headers: {
      'Content-Type': types[name.slice(name.lastIndexOf('.') + 1) as keyof typeof types],
      'Content-Disposition': `attachment; filename="${name}"`,
      'Cache-Control': 'private, no-store',
      'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'",
      'X-Content-Type-Options': 'nosniff',
    },
  });

import { cutFileKinds, cutFileType } from '#core/cutfile/index.ts';

/** A cut file to be saved, its kind by its ending. Nothing in it runs in the browser. */
export function cutFile({ name, body }: { name: string; body: string }): Response {
  const kind = cutFileKinds.find((k) => name.endsWith(`.${k}`));
  if (!kind) throw new Error(`no kind of cut file: ${name}`);
  return new Response(body, {
    headers: {
      'Content-Type': cutFileType(kind),
      'Content-Disposition': `attachment; filename="${name}"`,
      'Cache-Control': 'private, no-store',
      'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'",
    },
  });
}

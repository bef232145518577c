import { createHash } from 'node:crypto';
import { Feed } from 'feed';
import type { FeedOf } from '#work/shelf/feeds.ts';
import { words } from '../messages/index.ts';

/** What XML cannot hold is left out: control characters and lone surrogates (XML 1.0, 2.2). */
const plain = (text: string) => text.replace(/[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu, '');

/** Titles and summaries go out as HTML: what people wrote is text in it, never markup. */
const html = (text: string) => plain(text).replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

/** A feed as Atom (RFC 4287), with an ETag: who asks again and finds nothing new is told so and no more. */
export function atom(request: Request, origin: string, path: string, of: FeedOf): Response {
  const self = `${origin}${path}`;
  const latest = of.entries[0]?.at ?? new Date(0);
  const feed = new Feed({
    id: self,
    title: plain(of.title),
    description: plain(of.about),
    link: `${origin}/shelf`,
    feedLinks: { atom: self },
    updated: latest,
    generator: words.product,
    copyright: 'Each entry bears its own licence.',
    author: { name: words.product },
  });
  for (const e of of.entries)
    feed.addItem({
      id: `${origin}/cards/${e.card}?version=${e.version}`,
      title: html(e.title),
      link: `${origin}/cards/${e.card}`,
      description: html(e.says),
      date: e.at,
      published: e.at,
      author: [{ name: plain(e.author) }],
      copyright: words.licences[e.licence].name,
    });
  const body = feed.atom1();
  const tag = `"${createHash('sha256').update(body).digest('base64url').slice(0, 27)}"`;
  const headers = { ETag: tag, 'Cache-Control': 'public, max-age=60' };
  if (request.headers.get('if-none-match') === tag) return new Response(null, { status: 304, headers });
  return new Response(body, { headers: { ...headers, 'Content-Type': 'application/atom+xml; charset=utf-8' } });
}

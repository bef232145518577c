import { Ajv2020 } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { publishCard } from '#work/shelf/publish.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { takeAll } from '#work/deliver.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { quotas } from '#work/base/quotas.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { closeDb } from '#store/base/db.ts';
import { crafter, form, grade } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// What leaves the site for others: the public interface, feeds, pictures. Names that try to be more than text go along.
const NASTY = 'Drift <script>alert(1)</script> & ]]> “x”';
const database = ownHouse();
let server: ServerProcess;
let [open, linked, hidden, vinyl] = ['', '', '', ''];

beforeAll(async () => {
  const author = await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
  const bench = (await benchOf(author))!;
  const cards = [];
  for (const [name, visibility] of [
    [NASTY, 'public'],
    ['Known by a link', 'link'],
    ['Nobody’s business', 'private'],
    ['Second', 'public'],
    ['Third', 'public'],
  ] as const) {
    const id = await addVinyl(author, { brand: 'Quillow', name, type: 'smooth', colour: 'one', hex: '#cfc4ea' });
    vinyl ||= id;
    const coupon = await makeCoupon(author, bench, id, form({ cells: '6' }));
    const words = ['uncut', 'uncut', 'hangs', 'clean', 'scored', 'through'];
    await takeAll(
      author,
      (await couponOf(author, coupon)).cells.map((c, i) => grade(c.id, words[i]!, 1, i)),
    );
    await keepSetting(author, form({ vinyl: id, cutter: bench.cutter.id, strength: '130' }));
    cards.push(await publishCard(author, bench, form({ vinyl: id, wanted: 'clean', visibility, licence: 'cc0' }), 'x'));
  }
  [open, linked, hidden] = cards as [string, string, string];
  await closeDb();
  server = await serverProcess(database.url);
});
afterAll(async () => {
  await server?.kill();
});
const get = (path: string, headers: Record<string, string> = {}) => fetch(`${server.base}${path}`, { headers });

describe('the public interface', () => {
  test('answers are what its OpenAPI document says, by an independent validator of JSON Schema 2020-12', async () => {
    const document = (await (await get('/api/openapi.json')).json()) as {
      openapi: string;
      components: { schemas: Record<string, object> };
      paths: Record<string, object>;
    };
    expect(document.openapi).toBe('3.1.0');
    const ajv = new Ajv2020({ strict: false });
    addFormats.default(ajv);
    ajv.addSchema({ $id: 'api', components: document.components });
    const valid = (name: string, value: unknown) => {
      const check = ajv.getSchema(`api#/components/schemas/${name}`)!;
      void check(value);
      return check.errors ?? [];
    };
    const ids = { cards: open, vinyls: vinyl };
    for (const [kind, list, one] of [
      ['cards', 'Cards', 'Card'],
      ['vinyls', 'Vinyls', 'Vinyl'],
    ] as const) {
      const many = await get(`/api/v1/${kind}`);
      expect(many.headers.get('content-type')).toMatch(/^application\/json/);
      expect(valid(list, await many.json())).toEqual([]);
      expect(valid(one, await (await get(`/api/v1/${kind}/${ids[kind]}`)).json())).toEqual([]);
    }
    const missing = await get('/api/v1/cards/nonsense');
    expect(missing.status).toBe(404);
    expect(missing.headers.get('content-type')).toMatch(/^application\/problem\+json/);
    expect(valid('Problem', await missing.json())).toEqual([]);
    expect(valid('Card', { id: 'x' }).length).toBeGreaterThan(0);
  });

  test('nothing that is private or known by a link only', async () => {
    const { items } = (await (await get('/api/v1/cards?size=100')).json()) as { items: { id: string }[] };
    expect(items.map((c) => c.id)).toContain(open);
    for (const id of [linked, hidden]) {
      expect(items.map((c) => c.id)).not.toContain(id);
      expect((await get(`/api/v1/cards/${id}`)).status).toBe(404);
      expect((await get(`/cards/${id}/picture.png`)).status).toBe(404);
    }
    const all = await (await get('/api/v1/cards?size=100')).text();
    expect(all).not.toContain('ada@example.org');
  });

  test('pages follow each other, an ETag spares the answer, a wrong parameter is named', async () => {
    const seen = [];
    let path: string | null = '/api/v1/cards?size=1';
    while (path) {
      const answer = await get(path);
      const page = (await answer.json()) as { items: { id: string }[]; next: string | null };
      expect(answer.headers.get('link')).toBe(page.next && `<${page.next}>; rel="next"`);
      seen.push(...page.items.map((c) => c.id));
      path = page.next;
    }
    expect(new Set(seen).size).toBe(3);
    const tag = (await get('/api/v1/cards')).headers.get('etag')!;
    expect((await get('/api/v1/cards', { 'If-None-Match': tag })).status).toBe(304);
    const bad = await get('/api/v1/cards?size=1000');
    expect(bad.status).toBe(400);
    expect(((await bad.json()) as { detail: string }).detail).toContain('size');
  });

  test('feeds are Atom: what a feed and an entry must have (RFC 4287, 4.1), and names stay text', async () => {
    for (const path of ['/feed', `/feed/vinyls/${vinyl}`]) {
      const answer = await get(path);
      expect(answer.headers.get('content-type')).toBe('application/atom+xml; charset=utf-8');
      const xml = await answer.text();
      expect(xml).toMatch(/<feed xmlns="http:\/\/www\.w3\.org\/2005\/Atom">/);
      const head = xml.slice(0, xml.indexOf('<entry>'));
      for (const part of ['<id>', '<title>', '<updated>', '<author>', 'rel="self"']) expect(head).toContain(part);
      const entries = xml.match(/<entry>[\s\S]*?<\/entry>/g)!;
      expect(entries.length).toBeGreaterThan(0);
      for (const e of entries)
        for (const part of ['<id>', '<title', '<updated>', '<author>']) expect(e).toContain(part);
      expect(xml).not.toContain('<script>');
      expect(xml).toContain('&lt;script&gt;');
      expect(new Date(/<updated>(.*?)<\/updated>/.exec(xml)![1]!).getTime()).toBeGreaterThan(0);
      expect((await get(path, { 'If-None-Match': answer.headers.get('etag')! })).status).toBe(304);
    }
    expect((await get('/feed/vinyls/nonsense')).status).toBe(404);
  });

  test('a card as a picture, 1200 by 630, named by its page', async () => {
    const page = await (await get(`/cards/${open}`)).text();
    const image = /property="og:image" content="([^"]+)"/.exec(page)![1]!;
    expect(image).toBe(`${server.base}/cards/${open}/picture.png`);
    expect(page).toContain('property="og:title"');
    const answer = await fetch(image);
    const bytes = Buffer.from(await answer.arrayBuffer());
    expect(answer.headers.get('content-type')).toBe('image/png');
    // PNG: signature, then width and height in IHDR (ISO 15948, 11.2.2).
    expect(bytes.subarray(1, 4).toString()).toBe('PNG');
    expect([bytes.readUInt32BE(16), bytes.readUInt32BE(20)]).toEqual([1200, 630]);
    expect(await (await get(`/cards/${hidden}`)).text()).not.toContain('og:image');
  });

  test('too many questions are refused with when to come again', async () => {
    let last = 200;
    let wait: string | null = null;
    for (let i = 0; i < 2 * quotas.perMinuteOfAddress.api + 2 && last !== 429; i++) {
      const answer = await get('/api/v1/vinyls?size=1');
      last = answer.status;
      wait = answer.headers.get('retry-after');
    }
    expect(last).toBe(429);
    expect(Number(wait)).toBeGreaterThan(0);
  });
});

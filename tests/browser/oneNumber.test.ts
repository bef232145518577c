import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { crowd, helpers, password, people } from '#demo/parade.ts';
import { loadDemo } from '#demo/load.ts';
import { formatPosition, positionsOf, shortPosition, strengthAxis, type Axis } from '#core/controls/index.ts';
import { chartOf } from '#work/answer/chart.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { personById } from '#work/people/people.ts';
import { openBrowser, type Browser } from '../../bin/lib/browser.ts';
import { Stranger } from '../attack/stranger.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// Whatever screen a crafter looks at, a vinyl has one number on their cutter. Every person of the demo × every vinyl they see, on the
// pages as the server sends them; the list as the browser shows it, which draws the rows further down itself.
const house = ownHouse();
let server: ServerProcess;
let b: Browser;
beforeAll(async () => {
  await loadDemo(() => undefined);
  server = await serverProcess(house.url);
  b = await openBrowser(() => server.base);
  await b.go('/');
});
afterAll(async () => {
  await b?.close();
  await server?.kill();
});

const plain = (html: string) =>
  html
    .replace(/<[^>]*>/g, '')
    .replace(/&#x27;/g, "'")
    .replace(/&amp;/g, '&')
    .trim();

/** What a row or page says, as places on the axis: one, or one a camp. Long and short words of one place are the same. */
function placesIn(axis: Axis, text: string): string {
  const places = new Map<string, number>();
  for (const p of positionsOf(axis)) {
    places.set(shortPosition(axis, p), p);
    places.set(formatPosition(axis, p), p);
  }
  const parts = text.replace(/~/g, '').split(' or ');
  return parts.map((part) => String(places.get(part.trim()) ?? `"${part}"`)).join(' or ');
}

/** Rows of a list: vinyl → what its row says. */
function rowsOf(html: string, link: RegExp): Map<string, string> {
  const found = new Map<string, string>();
  for (const part of html.split(link).slice(1)) {
    const id = /^([0-9a-f-]{36})/.exec(part)![1]!;
    const row = part.split('</li>')[0]!;
    const said =
      /class="row-camps"><strong>(.*?)<\/strong>/.exec(row)?.[1] ??
      /<text x="[^"]*" y="\d+"[^>]*>(.*?)<\/text>/.exec(row)?.[1];
    if (said !== undefined && !found.has(id)) found.set(id, plain(said));
  }
  return found;
}

/** The list of vinyls as a browser shows it to somebody. */
async function shownTo(who: Stranger): Promise<string> {
  await b.driver.manage().deleteAllCookies();
  for (const [name, value] of who.cookies) await b.driver.manage().addCookie({ name, value });
  await b.go('/vinyls');
  await b.driver.wait(async () => (await b.driver.findElements({ css: '.row-coming' })).length === 0);
  return b.driver.executeScript<string>(`return document.querySelector('main').outerHTML`);
}

/** The large number of a bench card, or those of its camps. */
function onCard(html: string): string {
  const one = /data-testid="to-set">(.*?)<\/span>/.exec(html)?.[1];
  if (one !== undefined) return plain(one);
  return [...html.matchAll(/data-testid="camp-number">(.*?)<\/span>/g)].map((m) => plain(m[1]!)).join(' or ');
}

describe('one number, the same everywhere', () => {
  test.each([...people, ...crowd, ...helpers].map((who) => [who.name, who.email] as const))('%s', async (_, email) => {
    const who = new Stranger(server.base);
    expect((await who.post('/sign-in', { what: 'sign in', email, password })).status).toBe(302);
    const person = (await personById(
      (await rows<{ id: string }>(house.url, 'select id from person where email = $1', [email]))[0]!.id,
    ))!;
    const bench = (await benchOf(person))!;
    const axis = strengthAxis(bench.cutter.model);
    const list = rowsOf(await shownTo(who), /class="row row-vinyl" href="\/vinyls\//);
    expect(list.size).toBeGreaterThan(20);
    const chart = await chartOf(person, '', [], 0);
    const wall = (await who.get('/chart')).body;
    const shelf = (await who.get('/shelf')).body;
    let seen = 0;
    for (const [id, said] of list) {
      const at = placesIn(axis, said);
      expect(at, `${id} on the list`).not.toContain('"');
      const page = (await who.get(`/vinyls/${id}`)).body;
      expect(placesIn(axis, onCard(page)), `${id}: bench card beside the list`).toBe(at);
      // Find shows the same rows as one types.
      const name = plain(/<h1[^>]*>(.*?)<\/h1>/.exec(page)![1]!).split(',')[0]!;
      const hits = JSON.parse((await who.get(`/find?q=${encodeURIComponent(name)}`)).body) as {
        rows: { id: string; strip?: { label: string }; camps?: string }[];
      };
      const hit = hits.rows.find((r) => r.id === id);
      if (hit) expect(placesIn(axis, hit.camps ?? hit.strip!.label), `${name}: find`).toBe(at);
      // The wall chart, on screen and on paper (which prints the same cells).
      const row = wall.split(`href="/vinyls/${id}"`)[1]?.split('</tr>')[0];
      if (row) {
        expect(placesIn(axis, plain(/class="wall-number">(.*?)<\/strong>/.exec(row)![1]!)), `${name}: wall`).toBe(at);
        const { answer } = chart.rows.find((r) => r.id === id)!.cells[0]!;
        expect(answer.camps ? answer.camps.map((c) => c.number).join(' or ') : String(answer.position)).toBe(at);
      }
      seen++;
    }
    expect(seen).toBe(list.size);
    // The shelf says it for the vinyls it can say it for; a card of one's own on another cutter stays as it was shared.
    const cards = [...shelf.matchAll(/class="row row-vinyl" href="\/cards\/([0-9a-f-]{36})"/g)].map((m) => m[1]!);
    expect(cards.length).toBeGreaterThan(0);
    const shown = rowsOf(shelf, /class="row row-vinyl" href="\/cards\//);
    for (const id of cards) {
      const card = (await who.get(`/cards/${id}`)).body;
      const vinyl = /href="\/vinyls\/([0-9a-f-]{36})/.exec(card.split('<main')[1]!)?.[1];
      const said = vinyl && list.get(vinyl);
      const here = shown.get(id);
      if (said && here) expect(placesIn(axis, here), `card ${id} on the shelf`).toBe(placesIn(axis, said));
      const sets = /data-testid="translated-sets">(.*?)<\/span>/.exec(card)?.[1];
      if (said && sets && !said.includes(' or '))
        expect(placesIn(axis, plain(sets)), `card ${id}`).toBe(placesIn(axis, said));
    }
    who.leave();
  });
});

import { createConnection, type Socket } from 'node:net';
import { describe, expect, test } from 'vitest';
import { artworkLimits } from '#core/artwork/index.ts';
import { quotas } from '#work/base/quotas.ts';
import { crafter, grade, password, shirtForm } from '../bench.ts';
import { rows } from '../testDatabase.ts';
import { wavyDiscs, worstDrawings } from '#bench/worstDrawings.ts';
import { until, wholeHouse } from './house.ts';
import { fewAtATime, pause, Stranger, type Answer } from './stranger.ts';

// What drawings and connections of strangers did to everybody else: each part has its line in docs/security.md.
const house = wholeHouse();
const base = () => house.server.base;

/** A guest with a job. */
async function withJob(address?: string): Promise<{ who: Stranger; art: string }> {
  const who = new Stranger(base(), address);
  const { status, headers } = await who.post('/jobs/new', {
    ...(Object.fromEntries(shirtForm({})) as Record<string, string>),
    what: 'begin',
  });
  expect(status).toBe(302);
  return { who, art: headers.location! };
}
const draw = (who: Stranger, art: string, svg: string): Promise<Answer> =>
  who.upload(art, { what: 'set' }, { name: 'x.svg', bytes: Buffer.from(svg) });

describe('while strangers send the worst drawings', () => {
  test('others save, sign in and plan', async () => {
    await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
    const ada = new Stranger(base(), '203.0.113.1');
    await until(
      async () => (await ada.post('/sign-in', { what: 'sign in', email: 'ada@example.org', password })).status === 302,
    );
    const added = await ada.post('/vinyls/new', {
      what: 'add',
      brand: 'Tansy',
      name: 'Loft',
      type: 'puff',
      colour: 'maize',
      hex: '#e0ac33',
    });
    const vinyl = /[0-9a-f-]{36}/.exec(added.headers.location!)![0];
    const strangers = await Promise.all([withJob('198.51.100.201'), withJob('198.51.100.202')]);
    let stop = false;
    let n = 0;
    const seen: Record<string, number> = {};
    const attack = strangers.flatMap(({ who, art }) =>
      Array.from({ length: 4 }, async () => {
        while (!stop) {
          const { status } = await draw(who, art, wavyDiscs(400, 3 + (n++ % 40))).catch(() => ({ status: 0 }));
          seen[status] = (seen[status] ?? 0) + 1;
          if (status === 429) await pause(200);
        }
      }),
    );
    try {
      await pause(1_000);
      for (let i = 0; i < 6; i++) {
        expect((await ada.post('/preferences', { what: 'preferences', length: i % 2 ? 'mm' : 'in' })).status).toBe(302);
        const other = new Stranger(base(), `203.0.113.${10 + i}`);
        expect((await other.post('/sign-in', { what: 'sign in', email: 'ada@example.org', password })).status).toBe(
          302,
        );
        expect((await ada.get(`/coupons/new?vinyl=${vinyl}&cells=${4 + i}`)).status).toBe(200);
        other.leave();
      }
    } finally {
      stop = true;
      await Promise.all(attack);
    }
    console.log(`drawings of two strangers meanwhile: ${JSON.stringify(seen)}`);
    for (const status of Object.keys(seen)) expect(['302', '400', '429', '503']).toContain(status);
    expect(house.server.alive()).toBe(true);
  });

  test('a small drawing that took half a minute is answered with a sentence; none is an error of ours', async () => {
    const { who, art } = await withJob('198.51.100.203');
    for (const { name, svg, expected } of worstDrawings().filter((d) => !d.name.includes('wavy'))) {
      const { status, body } = await draw(who, art, svg);
      expect([302, 400], name).toContain(status);
      if (expected instanceof RegExp) expect(body, name).toMatch(expected);
    }
    who.leave();
  });

  test('a browser that leaves lets its thread go', async () => {
    const { who, art } = await withJob('198.51.100.204');
    const gone = draw(who, art, wavyDiscs(400, 41)).catch(() => undefined);
    await pause(300);
    who.leave();
    await gone;
    const { who: next, art: place } = await withJob('198.51.100.205');
    expect((await draw(next, place, '<svg viewBox="0 0 9 9"><path d="M0 0h9v9z"/></svg>')).status).toBe(302);
    next.leave();
  });

  test('as many colours as a job has layers, and one more: both are said in a sentence', async () => {
    const { who, art } = await withJob('198.51.100.206');
    const colours = (n: number) =>
      `<svg viewBox="0 0 ${n * 10} 10">${Array.from({ length: n }, (_, i) => `<rect x="${i * 10}" width="9" height="9" fill="#${(i * 9 + 16).toString(16).repeat(3).slice(0, 6)}"/>`).join('')}</svg>`;
    for (const n of [artworkLimits.layers, artworkLimits.layers + 1, 24]) {
      const { status, body } = await draw(who, art, colours(n));
      expect(status).toBe(n > artworkLimits.layers ? 400 : 302);
      if (status === 400) expect(body).toContain(`more than ${artworkLimits.layers} colours`);
    }
    who.leave();
  });
});

describe('what one address may hold', () => {
  test('its share of connections, and others find one', async () => {
    // Behind a proxy the proxy counts: this one stands in front itself.
    await house.server.stop();
    await house.server.start({ VERSIPEL_TRUST_PROXY: '0' });
    const { port } = new URL(base());
    const open: Socket[] = [];
    for (let i = 0; i < 2_100; i++) {
      const socket = createConnection({ port: Number(port), host: '127.0.0.1', localAddress: '127.0.0.9' });
      socket.on('error', () => undefined);
      socket.write('GET / HTTP/1.1\r\n');
      open.push(socket);
    }
    expect((await fetch(`${base()}/health`)).status).toBe(200);
    const closed = () => open.filter((s) => s.destroyed).length;
    await until(() => Promise.resolve(closed() >= 2_100 - quotas.connections.ofAddress), 8);
    // What only began to ask is closed after ten seconds.
    await until(() => Promise.resolve(open.every((s) => s.destroyed)), 20);
  });

  test('grades and passes: so many of a cell, so many in a minute', async () => {
    await house.server.stop();
    await house.server.start();
    const guest = new Stranger(base());
    await guest.post('/workshop/cutters/new', {
      what: 'add',
      model: 'marlow-24',
      name: 'Mine',
      blade: 'first',
      angle: '45',
      used: '0',
    });
    const added = await guest.post('/vinyls/new', {
      what: 'add',
      brand: 'Tansy',
      name: 'Fell',
      type: 'puff',
      colour: 'maize',
      hex: '#e0ac33',
    });
    const vinyl = /[0-9a-f-]{36}/.exec(added.headers.location!)![0];
    const made = await guest.post('/coupons/new', { what: 'make', vinyl, cells: '6' });
    expect(made.status).toBe(302);
    const [{ id: cell }] = (await rows<{ id: string }>(
      house.owner,
      `select cell.id from cell join cut on cut.id = cell.cut_id order by cut.created_at desc limit 1`,
    )) as [{ id: string }];
    const deliver = (n: number) =>
      guest.ask('/api/events', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', Origin: base() },
        body: JSON.stringify({ events: Array.from({ length: n }, () => grade(cell, 'clean')) }),
      });
    let [stored, often] = [0, 0];
    for (let i = 0; i < 14; i++) {
      const { status, body } = await deliver(100);
      if (status === 429) often++;
      else
        stored += (JSON.parse(body) as { results: { outcome: string }[] }).results.filter(
          (r) => r.outcome === 'stored',
        ).length;
    }
    expect(stored).toBe(quotas.events.perCell);
    expect(often).toBeGreaterThanOrEqual(3);
    guest.leave();
  });

  test('bytes within an hour, of anything that is sent; another address goes on', async () => {
    const [sender, other] = [new Stranger(base(), '203.0.113.90'), new Stranger(base(), '203.0.113.91')];
    const body = JSON.stringify({ events: ['x'.repeat(quotas.body.events - 100)] });
    const send = (who: Stranger) =>
      who.ask('/api/events', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', Origin: base() },
        body,
      });
    let taken = 0;
    await fewAtATime(
      Array.from({ length: Math.ceil(quotas.perHourOfAddress.bytes / body.length) + 20 }, (_, i) => i),
      async () => {
        const { status } = await send(sender);
        if (status === 429) return;
        expect(status).toBe(401);
        taken += body.length;
      },
    );
    expect(taken).toBeLessThanOrEqual(quotas.perHourOfAddress.bytes);
    expect(taken).toBeGreaterThan(quotas.perHourOfAddress.bytes - 4 * body.length);
    expect((await send(sender)).status).toBe(429);
    expect((await send(other)).status).toBe(401);
    for (const s of [sender, other]) s.leave();
  });
});

describe('where the server answers', () => {
  const asked = (host: string) => new Stranger(base()).ask('/', { headers: { Host: host } });
  test('to its own names; another one, and a port that is none, are told so', async () => {
    const { port } = new URL(base());
    for (const host of [`127.0.0.1:${port}`, `localhost:${port}`, `[::1]:${port}`, 'LOCALHOST'])
      expect((await asked(host)).status, host).toBe(200);
    for (const host of ['rebound.example', `rebound.example:${port}`, '10.1.2.3', 'localhost.rebound.example'])
      expect((await asked(host)).status, host).toBe(421);
    for (const host of ['127.0.0.1:99999', '127.0.0.1:0']) expect((await asked(host)).status, host).toBe(400);
  });
  test('a letter leads home, whatever the request said of itself', async () => {
    const s = new Stranger(base());
    await s.ask('/account', {
      method: 'POST',
      headers: {
        'Content-Type': 'application/x-www-form-urlencoded',
        Host: `[::1]:${new URL(base()).port}`,
        Origin: `http://[::1]:${new URL(base()).port}`,
      },
      body: new URLSearchParams({ what: 'claim', name: 'Rune', email: 'rune@example.org' }).toString(),
    });
    const [link] = await until(async () => {
      const found = await house.links('rune@example.org');
      return found.length > 0 && found;
    });
    expect(new URL(link!).host).toBe(`localhost:${new URL(base()).port}`);
  });
  test('an address with a broken escape below the assets is a word, and nothing of how this is built', async () => {
    const { status, body } = await new Stranger(base()).get('/assets/%');
    expect([status, body]).toEqual([400, 'The address cannot be read.\n']);
  });
  test('with hardly any room on the disk only what hands did is taken', async () => {
    await house.server.stop();
    await house.server.start({ VERSIPEL_DISK: '/', VERSIPEL_DISK_FLOOR: '1e18' });
    const s = new Stranger(base());
    const { status, body } = await s.post('/preferences', { what: 'preferences', length: 'in' });
    expect([status, body]).toEqual([507, expect.stringContaining('nearly full') as string]);
    expect((await s.get('/vinyls')).status).toBe(200);
    const events = await s.ask('/api/events', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Origin: base() },
      body: JSON.stringify({ events: [] }),
    });
    expect(events.status).toBe(401);
  });
  test('while it stops, who is answered is told to come on another connection', async () => {
    await house.server.stop();
    await house.server.start();
    const s = new Stranger(base());
    const slow = s.ask('/sign-in', {
      method: 'POST',
      headers: { 'Content-Type': 'application/x-www-form-urlencoded', Origin: base(), 'Content-Length': '11' },
      body: (req) => {
        req.write('what=');
        setTimeout(() => req.end('nobody'), 700);
      },
    });
    await pause(300);
    const from = performance.now();
    const stopped = house.server.stop();
    expect((await slow).headers.connection).toBe('close');
    await stopped;
    expect(performance.now() - from).toBeLessThan(8_000);
    await house.server.start();
  });
});

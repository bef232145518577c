import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { request } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { By } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { crafter, form, password } from '../bench.ts';
import { openBrowser, type Browser } from '../../bin/lib/browser.ts';
import { freePort } from '../browser/serverProcess.ts';
import { rows } from '../testDatabase.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { until, wholeHouse } from './house.ts';

// Behind a proxy that ends TLS, under a host name that is no localhost: a browser keeps no cookie there that is not marked as it should be.
const HOST = 'cuts.example';
const there = existsSync('/usr/sbin/haproxy') && existsSync('/usr/bin/openssl');
const port = await freePort();
const origin = `https://${HOST}:${port}`;
const house = wholeHouse({ VERSIPEL_ORIGIN: origin });

let folder: string;
let proxy: ChildProcess | undefined;
let b: Browser;
let vinyl = '';

async function startProxy(): Promise<void> {
  proxy = spawn('/usr/sbin/haproxy', ['-f', join(folder, 'haproxy.cfg'), '-db'], { stdio: 'ignore' });
  await until(() =>
    ask('/health').then(
      (a) => a.status === 200,
      () => false,
    ),
  );
}
async function stopProxy(): Promise<void> {
  const gone = new Promise((done) => proxy!.once('exit', done));
  proxy!.kill('SIGKILL');
  await gone;
}

const ask = (path: string, headers: Record<string, string> = {}, method = 'GET', body = '') =>
  new Promise<{ status: number; headers: Record<string, string | string[] | undefined>; body: string }>(
    (done, failed) => {
      const req = request(
        {
          host: '127.0.0.1',
          port,
          path,
          method,
          rejectUnauthorized: false,
          servername: HOST,
          headers: { Host: `${HOST}:${port}`, ...headers },
        },
        (res) => {
          let text = '';
          res.on('data', (d: Buffer) => (text += d.toString()));
          res.on('end', () => done({ status: res.statusCode!, headers: res.headers, body: text }));
        },
      );
      req.on('error', failed);
      req.end(body);
    },
  );

describe.skipIf(!there)('behind TLS', () => {
  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'versipel-tls-'));
    const [key, cert] = [join(folder, 'key.pem'), join(folder, 'cert.pem')];
    execFileSync(
      'openssl',
      [
        'req',
        '-x509',
        '-newkey',
        'rsa:2048',
        '-nodes',
        '-days',
        '2',
        '-subj',
        `/CN=${HOST}`,
        '-addext',
        `subjectAltName=DNS:${HOST}`,
        '-keyout',
        key,
        '-out',
        cert,
      ],
      { stdio: 'ignore' },
    );
    execFileSync('sh', ['-c', `cat '${cert}' '${key}' > '${join(folder, 'both.pem')}'`]);
    writeFileSync(
      join(folder, 'haproxy.cfg'),
      [
        'defaults',
        '  mode http',
        '  timeout connect 5s',
        '  timeout client 60s',
        '  timeout server 60s',
        '  option forwardfor',
        'frontend tls',
        `  bind 127.0.0.1:${port} ssl crt ${join(folder, 'both.pem')} alpn http/1.1`,
        '  default_backend versipel',
        'backend versipel',
        `  server one ${new URL(house.server.base).host}`,
        '',
      ].join('\n'),
    );
    await startProxy();
    const ada = await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
    vinyl = await addVinyl(
      ada,
      { brand: 'Quillow', name: 'Drift', type: 'glitter', colour: 'one', hex: '#cfc4ea' },
      'public',
    );
    await makeCoupon(ada, (await benchOf(ada))!, vinyl, form({ cells: '4' }));
    b = await openBrowser(() => origin, [`--host-resolver-rules=MAP ${HOST} 127.0.0.1`, '--ignore-certificate-errors']);
  });
  afterAll(async () => {
    await b?.close();
    proxy?.kill('SIGKILL');
    if (folder) rmSync(folder, { recursive: true, force: true });
  });

  test('cookies are bound to this host and to TLS; the next visit comes by TLS; what leaves the site names it', async () => {
    const answer = await ask(
      '/sign-in',
      { 'Content-Type': 'application/x-www-form-urlencoded', Origin: origin },
      'POST',
      new URLSearchParams({ what: 'sign in', email: 'ada@example.org', password }).toString(),
    );
    expect(answer.status).toBe(302);
    for (const cookie of answer.headers['set-cookie'] as string[]) {
      expect(cookie).toMatch(/^__Host-versipel_/);
      for (const part of ['Secure', 'HttpOnly', 'SameSite=Lax', 'Path=/']) expect(cookie).toContain(part);
      expect(cookie).not.toContain('Domain');
    }
    expect(answer.headers['strict-transport-security']).toMatch(/max-age=\d{8}/);
    expect((await ask('/feed')).body).toContain(`${origin}/`);
    expect((await ask('/api/openapi.json')).body).toContain(origin);
    // Another site, also this one without TLS, changes nothing here.
    for (const from of ['https://evil.example', `http://${HOST}:${port}`, 'null'])
      // The router refuses a foreign origin of a page with 400 before our own door answers 403; either will do.
      expect([400, 403]).toContain(
        (
          await ask(
            '/preferences',
            { 'Content-Type': 'application/x-www-form-urlencoded', Origin: from },
            'POST',
            'what=preferences&length=in',
          )
        ).status,
      );
  });

  test('visitors are told apart by what the proxy says of them, and not by what they say themselves', async () => {
    // The proxy appends the address it sees; what a visitor claims stands before that and counts for nothing.
    const count = async () =>
      (
        await rows<{ n: number }>(
          house.owner,
          `select count(distinct key)::int as n from attempt where kind = 'sign-in'`,
        )
      )[0]!.n;
    const before = await count();
    for (let i = 0; i < 4; i++)
      await ask(
        '/sign-in',
        { 'Content-Type': 'application/x-www-form-urlencoded', Origin: origin, 'X-Forwarded-For': `203.0.113.${i}` },
        'POST',
        'what=sign+in&email=x%40example.org&password=no',
      );
    // One address and one e-mail, however many were claimed.
    expect((await count()) - before).toBeLessThanOrEqual(2);
  });

  test('sign in, plan, grade, cut off, resend', async () => {
    await b.go('/sign-in');
    await b.fill('email', 'ada@example.org');
    await b.fill('password', password);
    await (await b.css('main button[type=submit]')).click();
    await b.at(/\/$/);
    const cookies = await b.driver.manage().getCookies();
    expect(cookies.find((c) => c.name === '__Host-versipel_session')).toMatchObject({ secure: true, httpOnly: true });
    await b.go(`/coupons/new?vinyl=${vinyl}`);
    await (await b.css('main form[method=post] button[type=submit]')).click();
    await b.at(/coupons\/[0-9a-f-]{36}$/);
    const coupon = (await b.driver.getCurrentUrl()).split('/').at(-1)!;
    const stored = async () =>
      (
        await rows<{ n: number }>(
          house.owner,
          'select count(*)::int as n from grade_event e join cell on cell.id = e.cell_id where cell.cut_id = $1',
          [coupon],
        )
      )[0]!.n;
    await b.go(`/coupons/${coupon}/grade`);
    await b.css('[data-testid=question]');
    await b.driver.actions().sendKeys('1').perform();
    await until(async () => (await stored()) === 1);
    await stopProxy();
    await b.driver.sleep(500);
    await b.driver.actions().sendKeys('3').perform();
    await b.says(/Cell 3/);
    await b.driver.sleep(500);
    expect(await stored()).toBe(1);
    await startProxy();
    await until(async () => (await stored()) === 2, 60);
    // Looked at again, and once more by a fresh visit: what was tapped while the line was cut is there.
    await b.go(`/coupons/${coupon}/grade`);
    await b.says(/Cell 3/);
    expect((await b.driver.findElements(By.css('[data-testid=question]'))).length).toBe(1);
  });
});

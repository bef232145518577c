import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Builder, By, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import { Options, ServiceBuilder } from 'selenium-webdriver/chrome.js';

/** Headless Chromium from Debian with a profile of its own. */
export type Browser = {
  driver: WebDriver;
  go: (path: string) => Promise<void>;
  css: (selector: string) => Promise<WebElement>;
  button: (text: string) => Promise<WebElement>;
  fill: (name: string, value: string) => Promise<void>;
  text: () => Promise<string>;
  /** Waits until the address is as said. */
  at: (pattern: RegExp) => Promise<unknown>;
  /** Waits until the page says something. */
  says: (text: string | RegExp) => Promise<unknown>;
  size: (width: number, height: number) => Promise<void>;
  shot: (file: string, full?: boolean) => Promise<void>;
  /** What the console has complained of since last asked. */
  complaints: () => Promise<string[]>;
  close: () => Promise<void>;
};

const WAIT = 20_000;
/** Machines are shared: every wait of a test may take this many times as long before it is given up. */
const PATIENCE = Number(process.env.VERSIPEL_PATIENCE ?? 15);

/**
 * @param more arguments of Chromium beside the usual ones
 * @param without switches that ChromeDriver sets by itself, and that are not wanted here
 */
export async function openBrowser(base: () => string, more: string[] = [], without: string[] = []): Promise<Browser> {
  const profile = mkdtempSync(join(tmpdir(), 'versipel-chromium-'));
  const options = new Options();
  options.setChromeBinaryPath('/usr/bin/chromium');
  options.addArguments(
    '--headless=new',
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--disable-dev-shm-usage',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    `--user-data-dir=${profile}`,
    ...more,
  );
  if (without.length > 0) options.excludeSwitches(...without);
  options.set('goog:loggingPrefs', { browser: 'ALL' });
  const driver = await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new ServiceBuilder('/usr/bin/chromedriver'))
    .build();
  const wait = driver.wait.bind(driver) as (for_: unknown, ms: number, what?: string) => Promise<unknown>;
  /** What stands on the page is told beside what was waited for: a wait that fails far away can be read. */
  const shown = async () =>
    `${await driver.getCurrentUrl()}: ${(await driver.executeScript<string>('return (document.querySelector("main") ?? document.body).innerText')).slice(0, 1500)}`;
  driver.wait = (async (thing: unknown, ms = WAIT, what?: string) => {
    try {
      return await wait(thing, ms * PATIENCE, what);
    } catch (error) {
      if (error instanceof Error && error.name === 'TimeoutError')
        error.message += `\n${await shown().catch(() => '(the page does not answer)')}`;
      throw error;
    }
  }) as typeof driver.wait;
  await driver.manage().setTimeouts({ pageLoad: 60_000 * PATIENCE, script: 60_000 * PATIENCE });
  const devtools = driver as unknown as {
    sendDevToolsCommand: (name: string, args: object) => Promise<void>;
    sendAndGetDevToolsCommand: (name: string, args: object) => Promise<{ data: string }>;
  };
  const size = (width: number, height: number) =>
    devtools.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
      width,
      height,
      deviceScaleFactor: 1,
      mobile: width < 600,
    });
  await size(1280, 800);
  const css = async (selector: string) =>
    driver.wait(until.elementLocated(By.css(selector)), WAIT, `nothing at ${selector}`);
  const text = async () => (await css('main')).getText();
  return {
    driver,
    size,
    css,
    go: async (path) => {
      await driver.get(base() + path);
      await driver.wait(
        () => driver.executeScript<boolean>(`return document.documentElement.dataset.alive === ''`),
        WAIT,
        `${path} did not come alive`,
      );
    },
    button: async (text) =>
      driver.wait(
        until.elementLocated(
          By.xpath(`//*[self::button or self::a][contains(normalize-space(.), ${JSON.stringify(text)})]`),
        ),
        WAIT,
        `no button ${text}`,
      ),
    fill: async (name, value) => {
      const field = await css(`[name="${name}"]:not([type=hidden])`);
      await field.clear();
      await field.sendKeys(value);
    },
    text,
    at: (pattern) => driver.wait(until.urlMatches(pattern), WAIT, `not at ${pattern}`),
    says: (wanted) =>
      driver.wait(
        async () => {
          // A page that is just being drawn anew is asked again.
          const page = await text().catch(() => '');
          return typeof wanted === 'string' ? page.includes(wanted) : wanted.test(page);
        },
        WAIT,
        `the page never says: ${wanted}`,
      ),
    shot: async (file, full = false) => {
      await driver.sleep(400);
      const { data } = await devtools.sendAndGetDevToolsCommand('Page.captureScreenshot', {
        format: 'png',
        captureBeyondViewport: full,
      });
      writeFileSync(file, Buffer.from(data, 'base64'));
    },
    complaints: async () =>
      (await driver.manage().logs().get('browser')).filter((e) => e.level.name === 'SEVERE').map((e) => e.message),
    close: async () => {
      await driver.quit();
      rmSync(profile, { recursive: true, force: true });
    },
  };
}

/** Taps what may lie below the fold, or under a bar that stays in place. */
async function tap(b: Browser, element: Promise<WebElement>): Promise<void> {
  await b.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', await element);
  await (await element).click();
}

/** Puts a cutter on the bench of whoever is here, with a blade in it. */
export async function cutterOnBench(b: Browser, name: string): Promise<void> {
  await b.go('/workshop/cutters/new');
  await b.fill('name', name);
  await tap(b, b.css('main form button[type=submit]'));
  await b.at(/\/$/);
}

/** Names a vinyl through the page. Answers its id; the page is the plan of its first coupon. */
export async function newVinyl(
  b: Browser,
  { type, ...fields }: { brand: string; name: string; colour: string; type: string },
): Promise<string> {
  await b.go('/vinyls/new');
  for (const [name, value] of Object.entries(fields)) await b.fill(name, value);
  await b.driver.executeScript(`document.querySelector('[name=type][value=${type}]').click()`);
  await tap(b, b.button('Save and plan'));
  await b.at(/coupons\/new\?vinyl=/);
  return /vinyl=([0-9a-f-]{36})/.exec(await b.driver.getCurrentUrl())![1]!;
}

/** Signs in through the page. */
export async function signInAs(b: Browser, email: string, password: string): Promise<void> {
  await b.go('/sign-in');
  await b.fill('email', email);
  await b.fill('password', password);
  await (await b.css('main button[type=submit]')).click();
  await b.at(/\/$/);
}

/** Makes an account through the page and the link in the letter, which the server shows on its console; the password is chosen there. */
export async function signUpAs(
  b: Browser,
  server: { said: () => string },
  { name, email, password }: { name: string; email: string; password: string },
): Promise<void> {
  await b.go('/account');
  await b.fill('name', name);
  await b.fill('email', email);
  await (await b.button('Make an account')).click();
  await b.says('A letter is on its way');
  const link = await b.driver.wait(async () => {
    const letter = server.said().split(`A letter for ${email}`).at(-1)!;
    return /\/link\/[\w-]+/.exec(letter)?.[0];
  }, WAIT);
  await b.go(link!);
  await b.fill('password', password);
  await (await b.button('Save and sign me in')).click();
  await b.says(`Signed in as ${name}`);
}

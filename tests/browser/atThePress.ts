import type { Browser } from '../../bin/lib/browser.ts';

/** Until the browser says that all it has was taken. */
export const sent = async (b: Browser) => {
  await b.driver.wait(
    async () =>
      (await b.driver.executeScript<number>(
        `return Object.keys(localStorage).filter((k) => k.startsWith('versipel.outbox.')).length`,
      )) === 0,
    20_000,
    'something was not sent',
  );
};

/** Hands at the press run of a browser, and its clock, which they set ahead. */
export type Hands = Awaited<ReturnType<typeof atThePress>>;

/** Gives a browser a clock that is set ahead by hand, from three hours ago: what hands did lies in the past. Before any page is opened. */
export async function atThePress(b: Browser) {
  await (b.driver as unknown as { sendDevToolsCommand: (c: string, p: object) => Promise<void> }).sendDevToolsCommand(
    'Page.addScriptToEvaluateOnNewDocument',
    {
      source: `{ const Real = Date; const ahead = () => Number(localStorage.getItem('ahead') ?? 0) * 1000 - 10_800_000;
        window.Date = class extends Real { constructor(...a) { if (a.length) super(...a); else super(Real.now() + ahead()); } static now() { return Real.now() + ahead(); } }; }`,
    },
  );
  const run = () => b.css('[data-testid=press-run]');
  const turn = async () => (await (await run()).getAttribute('data-turn'))!;
  const title = async () => (await b.css('[data-testid=run-title]')).getText();
  const text = async () => (await run()).getText();
  /** Sets the clock ahead and waits until the page has seen it. */
  const ahead = async (s: number) => {
    await b.driver.executeScript(`localStorage.setItem('ahead', Number(localStorage.getItem('ahead') ?? 0) + ${s})`);
    await b.driver.sleep(250);
  };
  /** Sets the clock so many seconds ahead of where it began: two devices have one time. */
  const clock = (s: number) => b.driver.executeScript(`localStorage.setItem('ahead', ${s})`);
  const left = async () =>
    Number(await b.driver.executeScript(`return document.querySelector('[data-testid=run-ring]')?.dataset.left ?? 0`));
  const shown = () =>
    b.driver.executeScript<string>(`return document.querySelector('.press-run').innerText.replace(/[0-9:]+/g, '')`);
  /** The big button, and until the page has taken it. A pedal that bounces is one tap: hands are slower. */
  const big = async () => {
    const before = await shown();
    await b.driver.sleep(620);
    await (await b.css('[data-testid=run-big]')).click();
    await b.driver.wait(async () => (await shown()) !== before, 10_000).catch(() => undefined);
  };
  /** One turn as hands take it: what runs is waited for. */
  const take = async () => {
    const now = await turn();
    if (now === 'open' || now === 'peel') {
      const wait = await left();
      if (wait > 0) await ahead(Math.ceil(wait) + 0.2);
    }
    await big();
    return now;
  };
  return { turn, title, text, left, ahead, clock, big, take };
}

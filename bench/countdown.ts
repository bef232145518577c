import { z } from 'zod';
import { cutterOnBench, newVinyl, type Browser } from '../bin/lib/browser.ts';
import { inApp } from './inApp.ts';

/**
 * How far off its moment the tone of a press timer is while its page lies in the background, one press after the other for minutes: after
 * five of them Chromium wakes a hidden page's timers once a minute. ChromeDriver switches that slowing down off; here it is left on.
 */
export const casesSchema = z.strictObject({
  format: z.literal('versipel-countdown-cases/1'),
  minutes: z.number().min(0.5).max(60).describe('how long the page lies in the background'),
});
type Cases = z.infer<typeof casesSchema>;
export const makeCases = (_seed: number, each: number): Cases => ({
  format: 'versipel-countdown-cases/1',
  minutes: each,
});

export type Groups = {
  presses: number;
  /** Set for the sound card, against the moment wanted, ms: in the middle and at worst. */
  setMedian: number;
  setWorst: number;
  /** Heard to end, against the same, ms. */
  heardMedian: number;
  heardWorst: number;
  /** How often a timer of a tenth of a second fired, a second, in the first minute in the background and in the last. */
  ticksFirst: number;
  ticksLast: number;
};

type Heard = { wanted: number[]; set: number[]; ended: number[]; ticks: number[]; hidden?: number };

/** Writes down what is set for the sound card; nothing of it is changed. Presses by itself, since nobody may look at a hidden page. */
const LISTEN = `
  window.heard = { wanted: [], set: [], ended: [], ticks: [] };
  const start = OscillatorNode.prototype.start;
  let since = 0, first = true;
  OscillatorNode.prototype.start = function (at) {
    if (first) {
      first = false;
      heard.wanted.push(since);
      heard.set.push(performance.now() + (at - this.context.currentTime) * 1000);
      this.addEventListener('ended', () => heard.ended.push(performance.now()));
    }
    return start.call(this, at);
  };
  window.press = () => { first = true; since = performance.now(); };
  setInterval(() => { if (document.hidden) heard.ticks.push(performance.now()); }, 100);
`;

async function listen(b: Browser, minutes: number): Promise<{ heard: Heard; seconds: number; hidden: number }> {
  await b.driver.executeScript(LISTEN);
  const timer = await b.button('Time this press');
  const seconds = Number(/(\d+) s/.exec(await timer.getText())![1]);
  await b.driver.executeScript('arguments[0].scrollIntoView({ block: "center" }); press()', timer);
  await timer.click();
  // A hidden page is driven by its own timers, slowed down as they are: whoever looks at it by a command brings it to the front.
  await b.driver.executeScript(
    `const [seconds] = arguments;
     const tap = (says) => [...document.querySelectorAll('main button')].find((x) => x.textContent.includes(says))?.click();
     let pressed = performance.now();
     setInterval(() => {
       if (!document.hidden) return;
       heard.hidden ??= performance.now();
       if (pressed !== undefined) {
         if (performance.now() < pressed + (seconds + 2) * 1000) return;
         pressed = undefined;
         tap('Opened');
       } else {
         press();
         pressed = performance.now();
         tap('Time this press');
       }
     }, 1000);`,
    seconds,
  );
  const page = await b.driver.getWindowHandle();
  await b.driver.switchTo().newWindow('tab');
  await b.driver.sleep(minutes * 60_000);
  await b.driver.switchTo().window(page);
  const heard = await b.driver.executeScript<Heard>('return window.heard');
  const { hidden } = heard;
  if (hidden === undefined) throw new Error('the page was never hidden: nothing was measured');
  return { heard, seconds, hidden };
}

const middle = (list: readonly number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? NaN;
const worst = (list: readonly number[]) => list.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0);

export async function run({ minutes }: Cases): Promise<Groups> {
  // Left as they are in a browser somebody uses: a hidden page's timers are slowed down.
  const slowed = [
    'disable-background-timer-throttling',
    'disable-backgrounding-occluded-windows',
    'disable-renderer-backgrounding',
  ];
  return inApp('countdown', 4981, slowed, async (b) => {
    await cutterOnBench(b, 'Marlow by the window');
    const vinyl = await newVinyl(b, { brand: 'Larkfield', name: 'Plain', colour: 'navy', type: 'smooth' });
    await b.go(`/vinyls/${vinyl}`);
    const { heard, seconds, hidden } = await listen(b, minutes);
    const off = heard.set.map((at, i) => at - heard.wanted[i]! - seconds * 1000);
    // A tone lasts 0.15 s.
    const ended = heard.ended.map((at, i) => at - heard.wanted[i]! - seconds * 1000 - 150);
    const last = heard.ticks.at(-1) ?? hidden;
    const rate = (from: number, to: number) =>
      Number((heard.ticks.filter((t) => t >= from && t < to).length / ((to - from) / 1000)).toFixed(2));
    return {
      presses: heard.set.length,
      setMedian: Math.round(middle(off)),
      setWorst: Math.round(worst(off)),
      heardMedian: Math.round(middle(ended)),
      heardWorst: Math.round(worst(ended)),
      ticksFirst: rate(hidden, hidden + 60_000),
      ticksLast: rate(last - 60_000, last),
    };
  });
}

export const table = (g: Groups): string =>
  [
    '| presses | set, median ms off | set, worst | heard, median ms off | heard, worst | ticks/s, first minute | last minute |',
    '| ---: | ---: | ---: | ---: | ---: | ---: | ---: |',
    `| ${g.presses} | ${g.setMedian} | ${g.setWorst} | ${g.heardMedian} | ${g.heardWorst} | ${g.ticksFirst} | ${g.ticksLast} |`,
  ].join('\n');

import { join } from 'node:path';
import { demoSignIns } from '#demo/load.ts';
import { openBrowser, signInAs } from './browser.ts';
import { root } from '../../tests/testDatabase.ts';

// Takes docs/screenshots from a running demo: bin/demo in one terminal, "npm run shots" in another.
const base = process.env.VERSIPEL ?? 'http://127.0.0.1:4780';
const file = (name: string) => join(root, 'docs/screenshots', `${name}.png`);
const b = await openBrowser(() => base);
const [ottoline, jory] = demoSignIns;
const helper = 'tamsin@parade.example';
const as = async (email: string) => {
  await b.driver.manage().deleteAllCookies();
  await signInAs(b, email, ottoline!.password);
};
const open = async (name: string) => {
  await b.go(`/vinyls?q=${encodeURIComponent(name)}`);
  await (await b.css('a.row')).click();
  await b.css('[data-testid=to-set]');
};
const here = async () => new URL(await b.driver.getCurrentUrl()).pathname;
try {
  await b.go('/');
  await b.shot(file('welcome'));
  await signInAs(b, ottoline!.email, ottoline!.password);
  await b.go('/');
  await b.shot(file('bench'));
  await b.go('/vinyls');
  await b.shot(file('vinyls'));
  await open('drift clear');
  await b.shot(file('vinyl'));
  for (const [name, path] of [
    ['blanks', '/blanks?on=short-fur&colour=%23f3e9d8'],
    ['wall-chart', '/chart'],
    ['workshop', '/workshop'],
  ] as const) {
    await b.go(path);
    await b.driver.sleep(1500);
    await b.shot(file(name));
  }
  for (const [name, job, page] of [['job-place', 'Lantern panel', '/size']] as const) {
    await b.go('/jobs');
    const rows = await b.driver.findElements({ css: 'a.row-job' });
    const names = await Promise.all(rows.map((row) => row.getText()));
    await b.go(
      `${new URL((await rows[names.findIndex((n) => n.includes(job))]!.getAttribute('href'))!).pathname}${page}`,
    );
    await b.driver.sleep(800);
    await b.shot(file(name));
  }
  await b.go('/jobs');
  const jobs = await b.driver.findElements({ css: 'a.row-job' });
  const called = await Promise.all(jobs.map((row) => row.getText()));
  await b.go(
    `${new URL((await jobs[called.findIndex((n) => n.includes('Shirts for the rowers'))]!.getAttribute('href'))!).pathname}?run`,
  );
  // The heat, a shirt warmed, its layer pressed and cooling, the next one in the press: hands wait as long as a pedal bounces.
  const big = async () => {
    await b.driver.sleep(900);
    await (await b.css('[data-testid=run-big], [data-testid=run-anyway]')).click();
  };
  for (let i = 0; i < 6; i++) await big();
  await b.driver.sleep(1500);
  await b.shot(file('press-run'));
  await open('plain navy');
  const plain = await here();
  await b.go(`${plain}/swatch`);
  await (await b.button('Begin this card')).click();
  await b.css('.swatch-answers');
  await b.driver.executeScript(`
    const set = (name, value) => document.querySelector('[name=' + name + '][value="' + value + '"]').click();
    document.querySelectorAll('.swatch-cell').forEach((_, i, all) => {
      set('bond-' + i, i === 0 ? 'edges lift' : 'bonded');
      set('harm-' + i, i === all.length - 1 ? 'shine mark' : 'fine');
    });`);
  await (await b.button('Keep the grades')).click();
  await b.css('[data-testid=swatch-recipe]');
  await b.driver.sleep(800);
  await b.shot(file('swatch'));
  await b.go('/check');
  await (await b.button('Moth')).click();
  await b.css('[data-testid=mend-outline]');
  await b.driver.executeScript('scrollTo(0, 0)');
  await b.driver.sleep(800);
  await b.shot(file('check'));
  await b.go('/jobs/names');
  await (await b.css('#names')).sendKeys('Ottoline\nJory\nTamsin\nHanneke\nMilo\nBartholomew\nNoor\nSunniva');
  await b.driver.wait(async () => (await b.driver.findElements({ css: '.name-list li' })).length === 8, 60_000);
  await b.shot(file('names'));
  await open('understory fox');
  await (await b.button('Plan a coupon')).click();
  await b.css('.sheet-drawing');
  await b.shot(file('plan'));
  await b.go('/coupons');
  await (await b.css('a.row[href$="/grade"]')).click();
  await b.css('[data-testid=question]');
  await b.driver.sleep(1000);
  await b.shot(file('grade'));
  const grading = await here();
  await b.go(grading.replace('grade', 'result'));
  await b.driver.sleep(1500);
  await b.shot(file('result'));
  await b.size(390, 844);
  await b.go(grading);
  await b.driver.sleep(1000);
  await b.shot(file('grade-phone'));
  await b.size(1280, 800);
  await as(jory!.email);
  await b.go('/coupons');
  await (await b.css('a.row[href$="/run"]')).click();
  await b.driver.sleep(800);
  await b.shot(file('run'));
  await as(helper);
  await b.go('/shelf');
  await b.shot(file('shelf'));
  await as(jory!.email);
  await b.go('/shelf?q=drift');
  await (await b.css('a.row')).click();
  await b.css('[data-testid=translated]');
  await b.shot(file('card'));
} finally {
  await b.close();
}

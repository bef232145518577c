import { openBrowser, signInAs } from './tests/browser/driver.ts';
const base = 'http://127.0.0.1:4780';
const b = await openBrowser(() => base);
const who = process.argv[2]!;
const phone = process.argv[3] === 'phone';
await signInAs(b, `${who}@parade.example`, 'lantern-river-7');
if (phone) await b.size(390, 844);
for (const a of process.argv.slice(4)) {
  const [name, path, click, full] = a.split('|');
  await b.go(path!);
  await b.driver.sleep(1200);
  if (click)
    for (const c of click.split(','))
      if (c) {
        await (await b.css(c)).click();
        await b.driver.sleep(700);
      }
  await b.shot(`/tmp/s-${name}.png`, full === 'full');
  console.log(name, await b.driver.getCurrentUrl(), (await b.complaints()).slice(0, 3));
}
await b.close();

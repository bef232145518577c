import { openBrowser, signInAs } from './browser.ts';
const main = async () => { const [, , list] = process.argv;
const b = await openBrowser(() => 'http://127.0.0.1:4780');
await signInAs(b, 'ottoline@parade.example', 'lantern-river-7');
for (const item of JSON.parse(list!) as [string, string, number?, number?, string?][]) {
  const [path, file, w = 1280, h = 800, script] = item;
  await b.size(w, h);
  await b.go(path);
  if (script) { await b.driver.executeScript(script); await b.driver.sleep(700); }
  await b.shot(`/tmp/${file}.png`, false);
}
await b.close();
}; void main();

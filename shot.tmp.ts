import { openBrowser, signInAs } from '/work/main/tests/browser/driver.ts';
const base='http://127.0.0.1:4780';
const [,, who, ...steps] = process.argv;
const b = await openBrowser(()=>base);
try {
  if (who !== 'guest') await signInAs(b, `${who}@parade.example`, 'lantern-river-7');
  for (const s of steps) {
    const i = s.indexOf('='); const [k, v] = i<0?[s,'']:[s.slice(0,i), s.slice(i+1)];
    if (k==='go') await b.go(v);
    else if (k==='shot') { await b.driver.sleep(500); await b.shot(`/tmp/s/${v}.png`); }
    else if (k==='full') { await b.driver.sleep(500); await b.shot(`/tmp/s/${v}.png`, true); }
    else if (k==='phone') await b.size(390,844);
    else if (k==='desk') await b.size(1280,800);
    else if (k==='click') await (await b.css(v)).click();
    else if (k==='button') await (await b.button(v)).click();
    else if (k==='wait') await b.driver.sleep(Number(v));
    else if (k==='js') console.log(await b.driver.executeScript(v));
    else if (k==='keys') await b.driver.actions().sendKeys(v).perform();
    else if (k==='url') console.log(await b.driver.getCurrentUrl());
    else if (k==='dark') await b.driver.executeScript(`localStorage.setItem('mui-mode','dark')`);
  }
  console.log((await b.complaints()).join('\n'));
} finally { await b.close(); }

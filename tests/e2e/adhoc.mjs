import { chromium } from '@playwright/test';
const [,, out, w, h, path, night, ...acts] = process.argv;
const base = 'http://localhost:4690';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu','--disable-quic','--no-first-run','--disable-background-networking','--disable-component-update','--disable-sync'] });
const page = await (await browser.newContext({ viewport: { width: +w, height: +h }, deviceScaleFactor: 1 })).newPage();
page.on('console', (m) => m.type() === 'error' && console.log('console:', m.text().slice(0, 300)));
page.on('pageerror', (e) => console.log('pageerror:', e.message.slice(0, 400)));
const jobs = await (await fetch(base + '/api/jobs')).json();
const kit = await (await fetch(`${base}/api/jobs/${jobs[0].id}/kit`)).json();
const walk = await (await fetch(`${base}/api/jobs/${jobs[0].id}/walk`)).json();
const ids = Object.fromEntries(walk.areas.flatMap((a) => a.stops).map((s) => [s.label, s.id]));
await page.addInitScript(([p, i, n]) => localStorage.setItem('walkdown.identity', JSON.stringify({ personId: p, instrumentId: i, night: n, leftHand: false })), [kit.people[0].id, kit.instruments.find((i) => i.name.startsWith('Camera')).id, night === '1']);
const url = path.startsWith('card:') ? `/card/${ids[path.slice(5)]}` : path;
await page.goto(base + url); await page.waitForTimeout(900);
for (const a of acts) {
  if (a.startsWith('click:')) await page.getByRole('button', { name: a.slice(6) }).first().click();
  else if (a.startsWith('text:')) await page.getByText(a.slice(5)).first().click();
  else if (a.startsWith('type:')) await page.keyboard.type(a.slice(5));
  else if (a.startsWith('wait:')) await page.waitForTimeout(+a.slice(5));
  else await page.keyboard.press(a);
  await page.waitForTimeout(250);
}
await page.screenshot({ path: out });
await browser.close();

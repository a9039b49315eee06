// First paint of the Walk and the worst frame while its line and the register scroll, in Debian's Chromium. Figures are printed, never asserted.
import { createRequire } from 'node:module';

const { chromium } = createRequire(new URL('../tests/e2e/package.json', import.meta.url))('@playwright/test');
const base = process.argv[2];
const flags = '--headless --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: flags.split(' ') });
const [job] = await (await fetch(`${base}/api/jobs`)).json();
const kit = await (await fetch(`${base}/api/jobs/${job.id}/kit`)).json();
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' })).newPage();
await page.addInitScript((id) => localStorage.setItem('walkdown.identity', JSON.stringify({ personId: id, night: false, leftHand: false })), kit.people[0].id);

/** How long a page takes until it is painted, and until what it is about stands on it. */
async function opened(path, what) {
  const paints = [];
  for (let n = 0; n < 5; n++) {
    await page.goto('about:blank');
    const from = Date.now();
    await page.goto(`${base}${path}`, { waitUntil: 'commit' });
    await page.locator(what).first().waitFor();
    const shown = Date.now() - from;
    const first = await page.evaluate(() => performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? 0);
    paints.push({ first, shown });
  }
  const median = (key) => paints.map((p) => p[key]).sort((a, b) => a - b)[2].toFixed(0);
  return `first paint ${median('first')} ms, on the page ${median('shown')} ms (medians of 5)`;
}

/** Scrolls a box step by step, one a frame, and gives the frames' lengths. No step: the whole of it in 240 frames, as a scroll bar is dragged. */
const scroll = (selector, pixels) =>
  page.evaluate(async ([where, pixels]) => {
    const box = [...document.querySelectorAll(where)].find((e) => e.scrollHeight > e.clientHeight + 10);
    if (!box) return null;
    const frames = [];
    let last = performance.now();
    const step = pixels ?? Math.max(60, box.scrollHeight / 240);
    box.scrollTop = 0;
    for (let y = 0, n = 0; y < box.scrollHeight && n < 240; y += step, n++) {
      box.scrollTop = y;
      await new Promise(requestAnimationFrame);
      const now = performance.now();
      frames.push(now - last);
      last = now;
    }
    frames.sort((a, b) => a - b);
    return { frames: frames.length, median: frames[frames.length >> 1], p99: frames[Math.floor(frames.length * 0.99)], worst: frames.at(-1), over: frames.filter((f) => f > 50).length };
  }, [selector, pixels]);
const say = (what, f) =>
  console.log(f ? `${what}: ${f.frames} frames, median ${f.median.toFixed(1)} ms, 99th ${f.p99.toFixed(1)} ms, worst ${f.worst.toFixed(1)} ms, ${f.over} over 50 ms` : `${what}: nothing to scroll`);
if (process.argv[3] === 'addresses') {
  console.log(`Addresses: ${await opened('/addresses', '[data-row]')}`);
  await page.waitForTimeout(500);
  say('Addresses, 150 pixels a frame', await scroll('main', 150));
  say('Addresses, dragged to its end', await scroll('main'));
  await browser.close();
  process.exit();
}
console.log(`Walk: ${await opened('', 'nav ol a')}`);
// A search opens every area that it finds, so that the line is as long as it gets.
await page.goto(`${base}/?find=Zone`);
await page.waitForTimeout(600);
await page.evaluate(() => document.querySelectorAll('nav button[aria-expanded=false]').forEach((b) => b.click()));
await page.waitForTimeout(300);
say('StopLine, 150 pixels a frame', await scroll('nav', 150));
say('StopLine, dragged to its end', await scroll('nav'));
await page.goto(`${base}/register`);
await page.locator('[role=grid] [role=row]').nth(3).waitFor();
await page.waitForTimeout(300);
say('Register, 150 pixels a frame', await scroll('[role=grid]', 150));
say('Register, dragged to its end', await scroll('[role=grid]'));
await browser.close();

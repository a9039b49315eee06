// A phone over HTTPS whose network is cut and comes back at random while somebody works: what was pressed is on record once, nothing else.
// node bench/cuts.mjs http://localhost:PORT HTTPS-PORT MINUTES
import { createRequire } from "node:module";

const { chromium } = createRequire(new URL("../tests/e2e/package.json", import.meta.url))("@playwright/test");
const [base, port, minutes = "10"] = process.argv.slice(2);
const passphrase = "quiet ferry lantern seven";
const json = (method, body, cookie = "") => ({ method, headers: { "content-type": "application/json", cookie }, body: JSON.stringify(body) });
const ask = async (path) => (await fetch(base + path)).json();
const jobId = (await ask("/api/jobs"))[0].id;
const person = (await ask(`/api/jobs/${jobId}/kit`)).people[0];
const first = await fetch(
  `${base}/api/access/first`,
  json("POST", { name: person.name, userName: "phone", passphrase, people: [{ jobId, personId: person.id }] }),
);
if (!first.ok) throw new Error(await first.text());
const cookie = first.headers.getSetCookie().map((c) => c.split(";")[0]).join("; ");
const opened = await fetch(`${base}/api/network`, json("PUT", { address: "127.0.0.1", port: Number(port) }, cookie));
if (!opened.ok) throw new Error(await opened.text());
// Chance that can be had again.
let seed = 20261127;
const chance = () => ((seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648);
const wait = (ms) => new Promise((done) => setTimeout(done, ms));
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"],
});
const context = await browser.newContext({
  viewport: { width: 390, height: 844 },
  hasTouch: true,
  ignoreHTTPSErrors: true,
  baseURL: `https://127.0.0.1:${port}`,
});
const page = await context.newPage();
await page.goto("/");
await page.getByLabel("Sign-in name").fill("phone");
await page.getByLabel("Passphrase", { exact: true }).fill(passphrase);
await page.getByRole("button", { name: "Sign in", exact: true }).click();
await page.getByRole("button", { name: /^(Done|Just look)$/ }).click();
await page.getByRole("button", { name: /^Take the job along/ }).click();
await page.getByText(/Cards are on this device/).waitFor({ timeout: 120_000 });
const stops = (await ask(`/api/jobs/${jobId}/walk`)).areas.flatMap((a) => a.stops).map((s) => s.id);
const until = Date.now() + Number(minutes) * 60_000;
let cuts = 0;
let working = true;
const network = (async () => {
  while (working) {
    await wait(300 + chance() * 4000);
    await context.setOffline(true);
    cuts++;
    await wait(100 + chance() * 6000);
    await context.setOffline(false);
  }
})();
// What is pressed is counted where it is pressed: by the words of each note.
const pressed = [];
let broken = 0;
while (Date.now() < until) {
  const stop = stops[Math.floor(chance() * stops.length)];
  const words = `cut ${pressed.length}, ${stop.slice(-6)}`;
  try {
    // Within the page, as a press on the Walk goes: a page that is loaded anew needs the shell that a service worker keeps, which this browser has none of.
    await page.evaluate((id) => {
      window.history.pushState({}, "", `/card/${id}`);
      window.dispatchEvent(new PopStateEvent("popstate"));
    }, stop);
    await page.getByRole("button", { name: "Note", exact: true }).first().click({ timeout: 5000 });
    await page.getByRole("dialog").getByRole("textbox").fill(words, { timeout: 5000 });
    await page.getByRole("dialog").getByRole("button", { name: /^(Save|Record|Write)/ }).click({ timeout: 5000 });
    pressed.push({ stop, words });
    await page.getByRole("dialog").waitFor({ state: "detached", timeout: 5000 });
  } catch (error) {
    if (++broken > 20) throw error;
    await page.keyboard.press("Escape");
  }
}
working = false;
await network;
await context.setOffline(false);
const began = Date.now();
await page.getByText(/not sent/).waitFor({ state: "detached", timeout: 120_000 });
await wait(1500);
const kept = [];
for (const stop of new Set(pressed.map((p) => p.stop))) {
  const card = await ask(`/api/cards/${stop}`);
  for (const text of JSON.stringify(card).matchAll(/cut \d+, [0-9a-f]{6}/g)) kept.push(text[0]);
}
const lost = pressed.filter((p) => !kept.includes(p.words));
const twice = kept.filter((words, i) => kept.indexOf(words) !== i);
console.log(
  `${minutes} minutes, ${cuts} cuts: ${pressed.length} entries pressed, ${new Set(kept).size} on record, ${lost.length} lost, ${twice.length} double, ` +
    `${broken} presses that found no button; all sent ${Date.now() - began} ms after the last cut`,
);
await browser.close();
process.exit(lost.length + twice.length > 0 ? 1 : 0);

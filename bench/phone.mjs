// A phone on a large site, over HTTPS, its processor slowed (4 times, or as said): sign-in, first load, taking the job along, a cold start without a network.
// node bench/phone.mjs http://localhost:PORT HTTPS-PORT
import { createHash, X509Certificate } from "node:crypto";
import { connect } from "node:tls";
import { createRequire } from "node:module";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

const { chromium } = createRequire(new URL("../tests/e2e/package.json", import.meta.url))("@playwright/test");
const [base, port, times4 = "4"] = process.argv.slice(2);
const rate = Number(times4);
const passphrase = "quiet ferry lantern seven";
const json = (method, body) => ({ method, headers: { "content-type": "application/json" }, body: JSON.stringify(body) });
const jobs = await (await fetch(`${base}/api/jobs`)).json();
const jobId = jobs.at?.(-1).id;
const person = jobId ? (await (await fetch(`${base}/api/jobs/${jobId}/kit`)).json()).people[0] : { name: "", id: "" };
let first = await fetch(
  `${base}/api/access/first`,
  json("POST", { name: person.name, userName: "phone", passphrase, people: jobId ? [{ jobId, personId: person.id }] : [] }),
);
if (!first.ok) first = await fetch(`${base}/api/access/sign-in`, json("POST", { userName: "phone", passphrase }));
if (!first.ok) throw new Error(await first.text());
const cookie = first.headers.getSetCookie().map((c) => c.split(";")[0]).join("; ");
const opened = await fetch(`${base}/api/network`, {
  ...json("PUT", { address: "127.0.0.1", port: Number(port) }),
  headers: { "content-type": "application/json", cookie },
});
if (!opened.ok) throw new Error(await opened.text());
const key = await new Promise((done, failed) => {
  const socket = connect({ host: "127.0.0.1", port: Number(port), rejectUnauthorized: false }, () => {
    const { publicKey } = new X509Certificate(socket.getPeerCertificate().raw);
    socket.end();
    done(createHash("sha256").update(publicKey.export({ type: "spki", format: "der" })).digest("base64"));
  }).on("error", failed);
});
const folder = mkdtempSync(join(tmpdir(), "walkdown-phone-"));
const launch = () =>
  chromium.launchPersistentContext(folder, {
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    baseURL: `https://127.0.0.1:${port}`,
    args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking", `--ignore-certificate-errors-spki-list=${key}`],
  });
const slow = async (context, page) => {
  const devtools = await context.newCDPSession(page);
  await devtools.send("Emulation.setCPUThrottlingRate", { rate });
};
const median = (all) => [...all].sort((a, b) => a - b)[Math.floor(all.length / 2)];
let context = await launch();
try {
  let page = context.pages()[0] ?? (await context.newPage());
  await slow(context, page);
  let began = Date.now();
  await page.goto("/");
  await page.getByRole("heading", { name: "Sign in" }).waitFor();
  console.log(`first load over HTTPS, nothing kept: ${Date.now() - began} ms to the door`);
  await page.getByLabel("Sign-in name").fill("phone");
  await page.getByLabel("Passphrase", { exact: true }).fill(passphrase);
  began = Date.now();
  await page.getByRole("button", { name: "Sign in", exact: true }).click();
  const done = page.getByRole("button", { name: /^(Done|Just look)$/ });
  const along = page.getByRole("button", { name: /^Take the job along/ });
  await done.or(along).first().waitFor();
  if (await done.count()) await done.click();
  await along.waitFor();
  console.log(`signed in and the Walk drawn: ${Date.now() - began} ms`);
  const times = [];
  for (let i = 0; i < 5; i++) {
    const since = performance.now();
    const response = await fetch(`${base}/api/access/sign-in`, json("POST", { userName: "phone", passphrase }));
    if (!response.ok) throw new Error(await response.text());
    times.push(performance.now() - since);
  }
  console.log(`sign-in by passphrase, answered: median ${median(times).toFixed(0)} ms`);
  began = Date.now();
  await page.getByRole("button", { name: /^Take the job along/ }).click();
  await page.getByText(/Cards are on this device/).waitFor({ timeout: 600_000 });
  const taken = Date.now() - began;
  const used = await page.evaluate(() => navigator.storage.estimate().then((e) => e.usage));
  console.log(`taken along: ${taken} ms, ${(used / 1e6).toFixed(1)} MB of the device's room in all; ${await page.getByText(/Cards are on this device/).innerText()}`);
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => true));
  await page.waitForTimeout(1500);
  /** Five cold starts at an address, without a network, until something of it stands there. */
  const coldStarts = async (address, what) => {
    const times = [];
    for (let i = 0; i < 5; i++) {
      await context.close();
      context = await launch();
      page = context.pages()[0] ?? (await context.newPage());
      await context.setOffline(true);
      await slow(context, page);
      began = Date.now();
      await page.goto(address);
      await page.locator(what).first().waitFor();
      times.push(Date.now() - began);
    }
    return `${times.join(", ")} ms, median ${median(times)}`;
  };
  console.log(`cold start without a network, processor slowed ${rate} times: ${await coldStarts("/", "#stops a")}`);
  const walk = await (await fetch(`${base}/api/jobs/${jobId}/walk`, { headers: { cookie } })).json();
  const longest = walk.areas.flatMap((a) => a.stops).sort((a, b) => b.total - a.total)[0];
  console.log(`first row of a Card (${longest.total} due) at a cold start without a network: ${await coldStarts(`/card/${longest.id}`, "h1[data-home]")}`);
  await page.goto("/");
  await page.locator("#stops a").first().waitFor();
  began = Date.now();
  await page.locator("#stops a").last().click();
  await page.getByText(/of \d+|Walk/).first().waitFor();
  console.log(`a Card that was never opened, without a network: ${Date.now() - began} ms`);
} finally {
  await context.close();
  rmSync(folder, { recursive: true, force: true });
}

// Makes docs/screenshots anew from the demo data: ./walkdown shots
import { execFileSync } from "node:child_process";
import { mkdirSync, mkdtempSync, renameSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { randomUUID } from "node:crypto";
import { chromium } from "@playwright/test";

const base = process.env.WALKDOWN_URL ?? "http://localhost:4680";
const folder = resolve(import.meta.dirname, "../../docs/screenshots");
mkdirSync(folder, { recursive: true });

const call = async (path, body) => {
  const response = await fetch(
    `${base}/api${path}`,
    body
      ? {
          method: "POST",
          headers: { "content-type": "application/json" },
          body: JSON.stringify(body),
        }
      : undefined,
  );
  const answer = await response.json();
  if (!response.ok) throw new Error(`${path}: ${answer.detail}`);
  return answer;
};
const over = async (work) => {
  for (; work.state === "running"; work = await call(`/progress/${work.id}`))
    await new Promise((done) => setTimeout(done, 200));
  if (work.state !== "done") throw new Error(work.why);
  return work;
};
const [job] = await call("/jobs");
const kit = await call(`/jobs/${job.id}/kit`);
const walk = await call(`/jobs/${job.id}/walk`);
const stops = Object.fromEntries(
  walk.areas.flatMap((a) => a.stops).map((s) => [s.label, s.id]),
);
const ina = kit.people.find((p) => p.name.startsWith("Ina")).id;
const tester = kit.instruments.find((i) => i.name.startsWith("Camera")).id;
const entry = (body) => ({
  id: randomUUID(),
  by: ina,
  takenAt: new Date().toISOString(),
  clockOffsetMs: 0,
  ...body,
});

const checks = new Map(
  (await call("/catalogue/definitions")).checks.map((check) => [
    check.id,
    check,
  ]),
);
/** A Card with what its checks say, as a page joins them. */
async function cardOf(id) {
  const card = await call(`/cards/${id}`);
  for (const row of card.card.rows) row.check = checks.get(row.key.check);
  return card;
}

/** A row of a Stop by its check, with what it says. */
const rowOf = async (label, check) =>
  (await cardOf(stops[label])).card.rows.find((r) => r.key.check === check);
/** The Card of a Stop with a row at hand. */
const at = async (label, check) =>
  `/card/${stops[label]}?row=${encodeURIComponent((await rowOf(label, check)).id)}`;

// Two days of the crew are behind it; today one camera was built otherwise than planned.
const id = stops["VL-03"];
await call(
  `/cards/${stops["CC-09"]}/built`,
  entry({
    cells: [
      { field: "length_m", text: "37.5" },
      { field: "port", text: "24" },
    ],
    why: "port 11 is dead",
  }),
);

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ],
});
async function shot(
  name,
  path,
  { hand = false, night = false, act, ready } = {},
) {
  const context = await browser.newContext({
    viewport: hand ? { width: 390, height: 664 } : { width: 1280, height: 800 },
  });
  await context.addInitScript(
    ([p, i, n]) =>
      localStorage.setItem(
        "walkdown.identity",
        JSON.stringify({
          personId: p,
          instrumentId: i,
          night: n,
          leftHand: false,
        }),
      ),
    [ina, tester, night],
  );
  const page = await context.newPage();
  await page.goto(base + path);
  await page.waitForLoadState("load");
  await page
    .getByText(
      ready ?? (path === "/" ? "have a Verdict" : /Checks taken|of \d/),
    )
    .first()
    .waitFor();
  await act?.(page);
  // The site's plan comes after what stands on it.
  if (path === "/") await page.waitForLoadState("networkidle");
  await page.screenshot({ path: join(folder, `${name}.png`) });
  await context.close();
}
await shot("walk", "/", {
  act: (page) =>
    page.locator("main svg text", { hasText: "Vehicle lanes" }).waitFor(),
});
await shot("register", "/register");
await shot("practice", "/practice", {
  ready: "Catalogue",
  act: async (page) => {
    await page.locator("summary", { hasText: "First try of a device" }).click();
    await page
      .getByRole("radio", { name: "On the bench, before it is fixed" })
      .click();
    await page.getByRole("button", { name: "See what it touches" }).click();
    await page.getByText(/^It touches/).waitFor();
  },
});
/** By the login that the demo knows. */
async function lookThrough(page) {
  const sheet = page.getByRole("dialog");
  await page.getByRole("button", { name: "Look through the camera" }).click();
  // A camera whose login the page knows, or that asks for none, shows its picture at once.
  const asks = sheet.getByRole("button", { name: "Login of the demo" });
  const seen = page.getByTestId(/^(aim|focus|night)-picture$/);
  await asks.or(seen).first().waitFor({ timeout: 60_000 });
  if (await seen.first().isVisible()) return;
  await asks.click();
  await page.waitForFunction(
    () => document.querySelector('[role="dialog"] input')?.value === "site",
  );
  await sheet.getByRole("button", { name: "Log in and look" }).click();
}
// A camera is turned by its own pictures.
await shot("aim", `/aim/${stops["CC-07"]}`, {
  ready: "Look through the camera",
  act: async (page) => {
    await lookThrough(page);
    await page.getByText("of the agreed view is in the picture").waitFor();
  },
});
// Its ring is turned over the sharpest, and some of the way back.
await shot("focus", `/focus/${stops["CC-16"]}`, {
  ready: "Look through the camera",
  act: async (page) => {
    await lookThrough(page);
    const picture = page.getByTestId("focus-picture");
    await picture.waitFor({ timeout: 60_000 });
    const number = async () =>
      Number(await picture.getAttribute("data-number"));
    for (const way of [..."ffffffnn"]) {
      const before = await number();
      await page
        .getByTestId("demo-ring")
        .getByRole("button", {
          name: way === "n" ? "near" : "far",
          exact: true,
        })
        .click();
      while ((await number()) < before + 2) await page.waitForTimeout(100);
    }
    await page.getByRole("radio", { name: "on", exact: true }).click();
  },
});
// In the dark somebody's sleeve lies over its picture.
await call("/demo/clock", { speed: null, dark: true });
await shot("night", `/night/${stops["VL-08"]}`, {
  ready: "Look through the camera",
  act: async (page) => {
    await lookThrough(page);
    const picture = page.getByTestId("night-picture");
    await picture.waitFor({ timeout: 60_000 });
    const first = Number(await picture.getAttribute("data-number"));
    while (Number(await picture.getAttribute("data-number")) < first + 3)
      await page.waitForTimeout(100);
    await page.getByText("Try first").waitFor();
  },
});
await call("/demo/clock", { speed: null, dark: false });
// A drive before a plate reader, and its list.
await call(
  `/cards/${stops["GT-01"]}/plates/drives`,
  entry({
    design: {
      vehicles: [
        { name: "A", plate: "46-TH-1207" },
        { name: "B", plate: "46-TH-883" },
      ],
      speedsKmh: [20, 40],
      lanes: [],
      bothWays: false,
      intervalSeconds: 30,
      rule: "sinceLastRecord",
      turnSeconds: 60,
      allowedMisses: 0,
      isAlone: false,
    },
  }),
);
await shot("drive", `/plates/${stops["GT-01"]}`, {
  ready: "Drive all 73",
  act: async (page) => {
    await page.getByRole("button", { name: "Drive all 73" }).click();
    await page.getByTestId("driven").getByText("73").waitFor();
    await page
      .getByText(/not sent yet/)
      .first()
      .waitFor({ state: "hidden", timeout: 120_000 });
    await page.getByRole("button", { name: "Have the list from R-1" }).click();
    await page.getByTestId("drive-result").waitFor();
    await page.waitForLoadState("networkidle");
  },
});
const recorders = await call(`/jobs/${job.id}/recorders`);
await shot(
  "identity",
  `/identity/${recorders.recorders.find((r) => r.label === "R-1").id}`,
  {
    ready: "Look at all channels",
    act: async (page) => {
      await page.getByRole("button", { name: "Look at all channels" }).click();
      await page
        .getByText("show what they say")
        .first()
        .waitFor({ timeout: 120_000 });
      await page.waitForLoadState("networkidle");
    },
  },
);
// What a camera should see, planned and not agreed yet: one target has too little detail.
const views = await call(`/cards/${stops["CC-07"]}/views`);
const design = {
  ...views.heads[0].begin,
  tiltDeg: 31,
  horizontalDeg: 58,
  azimuthDeg: 249,
  nearMetres: 3,
  infraredMetres: 30,
  use: "analytics",
  targets: [
    {
      name: "Kerb",
      groundMetres: 9,
      asideMetres: -2,
      heightMetres: 1.7,
      level: "recognise",
    },
    {
      name: "Board",
      groundMetres: 17,
      asideMetres: 3,
      heightMetres: 1.2,
      level: "identify",
    },
  ],
};
await call(
  `/cards/${stops["CC-07"]}/views`,
  entry({ headId: views.heads[0].id, design, agreedBy: null }),
);
await shot("views", `/views/${stops["CC-07"]}`, { ready: "Add a target" });
await shot("recording", "/recording", {
  ready: "Will it hold",
  act: async (page) => {
    await page.getByRole("button", { name: "Ask R-1" }).click();
    await page.getByText("R-1 told of 33 channels.").waitFor();
    await page.getByRole("button", { name: /^Channel 8,/ }).click();
    await page.getByText("VL-03 is here, planned on channel 9.").waitFor();
  },
});
await shot("addresses", "/addresses", {
  ready: "nobody looked yet",
  act: async (page) => {
    const sheet = page.getByRole("dialog");
    await page.getByRole("button", { name: "Search", exact: true }).click();
    await sheet.getByRole("button", { name: /^Demo: fill in/ }).click();
    await sheet.getByText("logins read").waitFor();
    await sheet.getByRole("button", { name: "Search", exact: true }).click();
    await page.getByRole("row").filter({ hasText: "CC-10" }).first().waitFor();
    for (const recorder of ["R-1", "R-2"]) {
      await page.getByRole("button", { name: "Recorders' lists" }).click();
      await sheet
        .getByRole("button", { name: `Read from ${recorder}` })
        .click();
      await page.getByText(`${recorder} told of`).waitFor();
    }
    await page.getByRole("row").filter({ hasText: "CC-10" }).first().click();
  },
});
await shot("phone-walk", "/", { hand: true });
await shot("phone-reading", await at("CC-08", "cable.loop-resistance"), {
  hand: true,
  act: async (page) => {
    for (const key of ["4", ".", "6", "1"])
      await page.getByRole("button", { name: key, exact: true }).click();
    await page.getByRole("button", { name: "Save and next" }).waitFor();
    await page.getByRole("status").filter({ hasText: /^in/i }).waitFor();
  },
});
await shot("power", "/power", { ready: "what falls out" });
await shot("path", `/path/${stops["GT-05"]}`, {
  ready: "piece by piece",
  act: async (page) => {
    await page.getByRole("button", { name: "Patch panel" }).click();
    await page.getByRole("button", { name: "Cord", exact: true }).click();
    await page.getByLabel("Length").last().fill("15");
    await page.getByLabel("Gauge").last().fill("26");
    await page.getByRole("checkbox", { name: "listed" }).last().uncheck();
    await page.getByText("A trial: nothing is kept.").waitFor();
    await page.waitForLoadState("networkidle");
    await page.locator("main").evaluate((m) => m.scrollTo(0, 0));
  },
});
await shot("readings", "/readings", {
  ready: "Readings by the hundred",
  act: async (page) => {
    await page.getByLabel("Area").selectOption("Pontoon");
    await page
      .getByRole("button", { name: "Read from tester and switch" })
      .click();
    await page
      .getByRole("heading", { name: /readings of 6 devices/ })
      .waitFor();
  },
});
// The pack: signed by both, with what the site has by now.
const strokes = [
  [
    0.2, 0.6, 0.3, 0.3, 0.4, 0.7, 0.5, 0.35, 0.6, 0.7, 0.75, 0.4, 0.9, 0.6, 1.1,
    0.5, 1.4, 0.55, 1.7, 0.35,
  ],
];
await fetch(`${base}/api/jobs/${job.id}/handover/cover`, {
  method: "PUT",
  headers: { "content-type": "application/json" },
  body: JSON.stringify({
    site: "Ternhaven Ferry Terminal, Quay Road",
    client: "Ternhaven Harbour Board",
    contractor: "Saltmarsh Installations",
    contract: "TF-2026-118, lot 2",
    specification: "TF-SPEC-04 rev C",
    standards: "IEC 62676-4\nISO/IEC 11801-1",
    remarks: "",
  }),
});
const handover = await call(`/jobs/${job.id}/handover`);
const signed = new Date().toISOString();
let work = await call(`/jobs/${job.id}/handover/revisions`, {
  id: randomUUID(),
  by: ina,
  deviceId: null,
  follows: handover.newest,
  sequence: handover.sequence,
  languages: ["en"],
  reservations:
    "GT-05 and GT-06 are to be retested before the handover of the gate.",
  shown: handover.shown,
  signatures: [
    {
      role: "technician",
      name: "Ina Solberg",
      position: "Lead technician",
      place: "Ternhaven",
      at: signed,
      strokes,
    },
    {
      role: "client",
      name: "Marit Holm",
      position: "Terminal manager",
      place: "Ternhaven",
      at: signed,
      strokes,
    },
  ],
});
while (work.state === "running") {
  await new Promise((r) => setTimeout(r, 200));
  work = await call(`/progress/${work.id}`);
}
await shot("handover", "/handover", {
  ready: "Sealed revisions",
  act: async (page) => {
    const box = await page.locator("canvas").first().boundingBox();
    await page.mouse.move(box.x + 40, box.y + 90);
    await page.mouse.down();
    for (let i = 0; i < 20; i++)
      await page.mouse.move(
        box.x + 40 + i * 9,
        box.y + 90 - 40 * Math.sin(i * 1.1),
      );
    await page.mouse.up();
    await page.getByLabel("Name", { exact: true }).first().fill("Ina Solberg");
  },
});
await shot("card-90", await at("BW-02", "night.picture"), {
  act: async (page) => {
    await page.keyboard.press("Enter");
    await page.getByText("Film, grease or dust").waitFor();
  },
});

await browser.close();

try {
  const packed = mkdtempSync(join(tmpdir(), "walkdown-shots-"));
  writeFileSync(
    join(packed, "pack.pdf"),
    Buffer.from(
      await (
        await fetch(
          `${base}/api/jobs/${job.id}/handover/revisions/${work.revision.id}/report.pdf`,
        )
      ).arrayBuffer(),
    ),
  );
  execFileSync("pdftoppm", [
    "-r",
    "84",
    "-f",
    "2",
    "-l",
    "2",
    "-singlefile",
    "-png",
    join(packed, "pack.pdf"),
    join(packed, "pack"),
  ]);
  renameSync(join(packed, "pack.png"), join(folder, "pack.png"));
} catch (error) {
  console.error(
    `The report's pictures need pdftoppm (Debian's poppler-utils): ${error.message}`,
  );
}
console.log(`pictures in ${folder}`);

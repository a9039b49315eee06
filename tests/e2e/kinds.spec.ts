import { expect, type Page } from "@playwright/test";
import { accept, type Says } from "./accept";
import {
  covering,
  nothingModerate,
  onSite,
  open,
  openStop,
  row,
  test,
  WHOLE,
} from "./site";

/** Mends what is wrong in the made-up world, as somebody on the ladder would. */
async function mend(page: Page, mends: string) {
  await page.getByRole("button", { name: "Demo: the real world" }).click();
  const sheet = page.getByRole("dialog");
  await sheet.getByRole("button", { name: mends }).click();
  await expect(sheet.getByRole("button", { name: mends })).toHaveCount(0);
  await page.keyboard.press("Escape");
  await expect(sheet).toHaveCount(0);
}

test("a camera over coax: two loads are told by the level, and are gone once one is taken off", async ({
  browser,
}) => {
  const page = await open(browser, { width: 1280, height: 800 });
  await openStop(page, "OP-01");
  const main = page.getByRole("main");
  const save = main.getByRole("button", { name: /^Save and next/ });
  await row(page, "Coax run").click();
  await main.getByRole("radio", { name: "RG-59" }).click();
  await main.getByRole("radio", { name: "solid copper" }).click();
  await main.getByLabel("Length, m").fill("80");
  await main.getByRole("radio", { name: "composite" }).click();
  await save.click();
  await expect(row(page, "Coax run")).toHaveAccessibleName(/, in$/);
  // The tester reads both levels; the sync says that a second load hangs on the line.
  await row(page, "Video level").click();
  await main.getByRole("button", { name: /read tester/i }).click();
  await expect(main.getByLabel("Sync, mV")).toHaveValue(/^19\d/);
  await save.click();
  await expect(row(page, "Video level")).toHaveAccessibleName(/, out$/);
  await row(page, "Video level").click();
  await expect(main.getByText(/Terminated twice/).first()).toBeVisible();
  await nothingModerate(page);
  // The row stays open behind the sheet.
  await mend(page, "take the load off the monitor");
  await main.getByRole("button", { name: /read tester/i }).click();
  await expect(main.getByLabel("Sync, mV")).toHaveValue(/^2[89]\d/);
  await save.click();
  await expect(row(page, "Video level")).toHaveAccessibleName(/, in$/);
  // And on, row by row, to its Verdict.
  await page.reload();
  await expect(page.getByText("OP-01").first()).toBeVisible();
  const { presses, rows } = await accept(page, false);
  await expect(page.getByTestId("verdict")).toHaveText("Accepted");
  console.log(`coax camera: ${rows} Checks more, ${presses} presses`);
});

test("a radio camera in the hand: crossed antennas are told from the budget, and the level is read again", async ({
  browser,
}) => {
  const desk = await open(browser, { width: 1280, height: 800 });
  await openStop(desk, "OP-02");
  const main = desk.getByRole("main");
  await row(desk, "Link budget").click();
  for (const [label, value] of [
    ["Distance, m", "1200"],
    ["Frequency, MHz", "5800"],
    ["Transmitter, dBm", "20"],
    ["Its antenna, dB", "23"],
    ["The other antenna, dB", "23"],
    ["Loss of its lead, dB", "1"],
    ["Loss of the other lead, dB", "1"],
    ["The receiver needs, dBm", "-75"],
    ["May be radiated, dBm", "45"],
  ])
    await main.getByLabel(label).fill(value);
  await main.getByRole("button", { name: /^Save and next/ }).click();
  await expect(row(desk, "Link budget")).toHaveAccessibleName(/, in$/);
  await row(desk, "Level at its place").click();
  await main.getByRole("button", { name: /read tester/i }).click();
  await main.getByRole("button", { name: /^Save and next/ }).click();
  await row(desk, "Level at its place").click();
  await expect(main.getByText(/crossed polarisation/).first()).toBeVisible();
  await mend(desk, "turn the antenna upright");
  // On the ladder, with the phone.
  const phone = await open(browser, { width: 390, height: 844 });
  await phone.goto(new URL(desk.url()).pathname);
  await phone.getByRole("button", { name: /OP-02/ }).first().click();
  await phone.getByRole("button", { name: /^Level at its place/ }).click();
  await phone.getByRole("button", { name: "How", exact: true }).click();
  await expect(
    phone.getByText(/ladder and people out of the line/),
  ).toBeVisible();
  await phone.keyboard.press("Escape");
  await phone
    .getByRole("button", { name: /read tester/i })
    .first()
    .click();
  await expect(
    phone.getByText(/^In\b|As predicted|in, /i).first(),
  ).toBeVisible();
  await phone.getByRole("button", { name: /^Save and next/ }).click();
  // And on, in the hand, to its Verdict.
  await phone.reload();
  await expect(phone.getByText("OP-02").first()).toBeVisible();
  const { presses, rows } = await accept(phone, true, {
    "radio.path": {
      at: "600",
      "height-a": "12",
      "height-b": "12",
      obstacle: "4",
    },
    "radio.paired": { tries: "1" },
    "radio.load": { streams: "12" },
  });
  await expect(phone.getByTestId("verdict")).toHaveText("Accepted");
  console.log(`radio camera: ${rows} Checks more, ${presses} presses`);
});

/** Gear of each sort, from Open to its Verdict: on the desk, and what hangs high in the hand. */
const gear: {
  kind: string;
  stop: string;
  hand?: boolean;
  says?: Says;
}[] = [
  { kind: "supply", stop: "OP-04", says: { "gear.output": { volts: "12" } } },
  {
    kind: "injector",
    stop: "OP-08",
    hand: true,
    says: { "gear.output": { volts: "54" } },
  },
  { kind: "splitter", stop: "OP-09", says: { "gear.output": { volts: "12" } } },
  { kind: "adapter-pair", stop: "CC-17", hand: true },
  {
    kind: "switch",
    stop: "CR-01",
    says: {
      "cable.scheme": "b",
      "link.port-role": "uplink",
      "address.custodian": { role: "owner" },
    },
  },
];

for (const { kind, stop, hand = false, says } of gear)
  test(`from Open to its Verdict: ${kind}, ${hand ? "in the hand" : "on the desk"}`, async ({
    browser,
  }) => {
    const desk = await open(browser, { width: 1280, height: 800 });
    const put = await covering(desk);
    const parts = ["cable", "power", "link"];
    expect((await put({ parts, byKind: { [kind]: WHOLE } })).ok()).toBe(true);
    try {
      await onSite(desk, "permanent-power", new Date());
      await openStop(desk, stop);
      const page = hand
        ? await open(browser, { width: 390, height: 844 })
        : desk;
      if (hand) await page.goto(new URL(desk.url()).pathname);
      await expect(page.getByText(stop).first()).toBeVisible();
      const { presses, rows } = await accept(page, hand, says);
      await expect(page.getByTestId("verdict")).toHaveText("Accepted");
      // Nothing that a focus met has scrolled the head away.
      expect(
        await page.evaluate(() => document.documentElement.scrollTop),
      ).toBe(0);
      await nothingModerate(page);
      console.log(`${kind}: ${rows} Checks, ${presses} presses`);
      // Opening the Card, fields of a form, and two presses for each Check.
      expect(presses).toBeLessThanOrEqual(2 * rows + 6);
    } finally {
      // Whatever came of it, the journeys after it find the job as it was.
      expect((await put(null)).ok()).toBe(true);
      await onSite(desk, "permanent-power", null);
    }
  });

import { expect, type Page } from "@playwright/test";
import {
  nothingModerate,
  open,
  openStop,
  overflow,
  smallTargets,
  test,
} from "./site";

/** Desk, tablet, a phone either way, the desk at 200 %, and the narrowest. */
const screens = {
  desk: { width: 1280, height: 800 },
  "tablet upright": { width: 768, height: 1024 },
  "phone on its side": { width: 844, height: 390 },
  phone: { width: 390, height: 844 },
  "desk at 200 %": { width: 640, height: 400 },
  "narrow phone": { width: 320, height: 568 },
  tablet: { width: 1024, height: 768 },
  "wide desk": { width: 2560, height: 1440 },
};

const sections = [
  "Walk",
  "Readings",
  "Power",
  "Addresses",
  "Recording",
  "Handover",
  "Register",
  "Kit",
  "Practice",
];

/** Pages that no section leads to. */
const besides = ["/access", "/me", "/join", "/trust"];

test("every page fits every screen, and nothing moderate stands in the way", async ({
  browser,
}) => {
  const page = await open(browser, screens.desk);
  for (const place of [...sections, ...besides]) {
    await page.setViewportSize(screens.desk);
    if (place.startsWith("/")) await page.goto(place);
    else
      await page
        .getByRole("link", { name: new RegExp(`^${place}( G .)?$`) })
        .first()
        .click();
    // What is looked at is the page, not its waiting, nor the one before.
    await page.waitForLoadState("networkidle");
    if (!place.startsWith("/"))
      await expect(
        page.getByRole("link", { name: new RegExp(`^${place}`) }).first(),
      ).toHaveAttribute("aria-current", "page");
    await expect(page.getByText("Waiting for the record.")).toHaveCount(0);
    await expect(
      page.getByRole("main").getByRole("heading", { level: 1 }).first(),
    ).toBeAttached();
    for (const [name, size] of Object.entries(screens)) {
      await page.setViewportSize(size);
      await expect
        .poll(() => overflow(page), { message: `${place}, ${name}` })
        .toBeLessThanOrEqual(0);
      if (name === "phone") expect(await smallTargets(page), place).toEqual([]);
      if (name !== "desk" && name !== "phone") continue;
      await nothingModerate(page, `${place}, ${name}`);
    }
  }
});

for (const name of ["phone", "phone on its side"] as const)
  test(`on the ${name} every target of the Card is as large as a glove needs`, async ({
    browser,
  }) => {
    const page = await open(browser, screens[name]);
    await openStop(page, "CC-11");
    await expect(page.getByRole("radio", { name: /^yes/ })).toBeVisible();
    expect(await smallTargets(page)).toEqual([]);
    await expect.poll(() => overflow(page)).toBeLessThanOrEqual(0);
  });

/** Where the keys are. */
const focused = (page: Page) =>
  page.evaluate(() => document.activeElement?.tagName ?? "BODY");

test("the keys never fall to nowhere, and no Check takes a double press", async ({
  browser,
}) => {
  const page = await open(browser, screens.desk);
  await openStop(page, "VL-06");
  await expect(page.getByTestId("verdict")).toBeVisible();
  // A sheet that a key opened gives the keys back.
  await page.keyboard.press("v");
  await expect(page.getByRole("dialog")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await expect.poll(() => focused(page)).not.toBe("BODY");
  // One press opens a row.
  await page.getByRole("button", { name: /^Label,/ }).click();
  await expect(page.getByRole("radio", { name: "yes" })).toBeVisible();
  let presses = 1;
  const key = async (name: string) => {
    presses++;
    await page.keyboard.press(name);
  };
  await key("y");
  await key("Enter");
  // The rest by the tester: one key reads, one saves.
  for (const next of ["Wire map", "Length"]) {
    await expect(
      page
        .getByRole("group", { name: new RegExp(`^${next}`) })
        .getByRole("button", { name: "Read tester" }),
    ).toBeVisible();
    await key("t");
    await expect(
      page.getByRole("button", { name: "Save and next" }),
    ).toBeFocused();
    await key("Enter");
  }
  // The next one has opened by itself, and has the keys.
  await expect(page.getByTestId("entry")).toBeFocused();
  expect(presses).toBe(7);
  // What was typed into a sheet is not lost without a question.
  await page.keyboard.press("Escape");
  await expect(page.getByTestId("entry")).toHaveCount(0);
  await expect.poll(() => focused(page)).not.toBe("BODY");
  await page.keyboard.press("n");
  const note = page.getByRole("dialog").getByRole("textbox");
  await note.fill("Bracket is loose");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("alertdialog")).toBeVisible();
  await page.getByRole("button", { name: "Go on" }).click();
  await expect(note).toHaveValue("Bracket is loose");
  // Back, too, is asked; and an empty sheet is all that it takes away.
  const here = page.url();
  await page.goBack();
  await expect(page.getByRole("alertdialog")).toBeVisible();
  await page.getByRole("button", { name: "Leave it" }).click();
  await page.keyboard.press("n");
  await expect(note).toBeVisible();
  await page.goBack();
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await expect.poll(() => page.url()).toBe(here);
});

test("the job is taken along, and a Card that was never opened opens in the cellar", async ({
  browser,
}) => {
  const page = await open(browser, screens.phone);
  await page.getByRole("button", { name: /^Take the job along/ }).click();
  await expect(page.getByText(/Cards are on this device/)).toBeVisible();
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => true));
  await page.context().setOffline(true);
  await page.reload();
  await page.getByRole("searchbox", { name: "Find a Stop" }).fill("GT-02");
  await page.getByRole("link", { name: /^GT-02,/ }).click();
  await page.getByRole("radio", { name: /^yes/ }).click();
  await page.getByRole("button", { name: "Save and next" }).click();
  await expect(page.getByText("Wire map").first()).toBeVisible();
  await page.context().setOffline(false);
  await expect(page.getByText(/not sent/)).toHaveCount(0, { timeout: 90_000 });
  await page.goto("/");
  await page.getByRole("searchbox", { name: "Find a Stop" }).fill("GT-02");
  await page.getByRole("link", { name: /^GT-02,/ }).click();
  await expect(page.getByText("Wire map").first()).toBeVisible();
});

test("a page with unsaved work asks before it is left, and keeps what was typed", async ({
  browser,
}) => {
  const page = await open(browser, screens.desk);
  await openStop(page, "GT-03");
  await page.getByRole("link", { name: "Run, piece by piece" }).click();
  const length = page.getByLabel("Length").first();
  await length.fill("47");
  await page.getByRole("link", { name: /^Walk/ }).first().click();
  const asked = page.getByRole("alertdialog");
  await asked.getByRole("button", { name: "Go on" }).click();
  await expect(length).toHaveValue("47");
  await page
    .getByRole("link", { name: /^Practice/ })
    .first()
    .click();
  await asked.getByRole("button", { name: "Leave it" }).click();
  await page.getByText("Simple: by the number alone").click();
  await page.goBack();
  await expect(asked).toBeVisible();
  await asked.getByRole("button", { name: "Go on" }).click();
  await expect(page.getByRole("radio", { name: /^Simple/ })).toBeChecked();
  // What is as it was on record is left without a question.
  await page.getByText("Guarded: in or out only when").click();
  await page.getByRole("link", { name: /^Kit/ }).first().click();
  await expect(page.getByRole("heading", { name: "Kit" })).toBeVisible();
  await expect(asked).toHaveCount(0);
});

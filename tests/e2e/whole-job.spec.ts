import { expect } from "@playwright/test";
import {
  covering,
  nothingModerate,
  onSite,
  open,
  openStop,
  smallTargets,
  overflow,
  test,
  WHOLE,
} from "./site";

/** The kind of which this journey covers all of the work; of every other the parts stay as they were. */
const KIND = "thermal";

test("a job that covers more asks for it, holds and waits, and its Verdict says of what it speaks", async ({
  browser,
}) => {
  const page = await open(browser, { width: 1280, height: 800 });
  const put = await covering(page);
  // As data first; the page shows it, and says what it would touch.
  const parts = ["cable", "power", "link"];
  expect(
    (
      await put({ parts, byKind: { [KIND]: ["cable", "fixing", "finish"] } })
    ).ok(),
  ).toBe(true);
  await page.goto("/practice");
  const covers = page.getByRole("group", { name: "What this job covers" });
  await expect(covers.getByLabel("Fixing")).not.toBeChecked();
  await covers.getByRole("combobox").selectOption(KIND);
  await expect(covers.getByLabel("Fixing")).toBeChecked();
  await covers.getByLabel("Night").check();
  await page.getByRole("button", { name: "See what it touches" }).click();
  await expect(page.getByText(/It touches/)).toBeVisible();
  await page.getByRole("button", { name: "Put them back" }).click();
  await nothingModerate(page);

  await openStop(page, "FB-01");
  const main = page.getByRole("main");
  const row = (name: string) =>
    main.getByRole("button", { name: new RegExp(`^${name},`) });
  // A long Card folds: the section is one press away.
  await main.getByRole("button", { name: /^Fixing / }).click();
  await expect(main.getByText("Hold: Lanyards first.")).toBeVisible();
  await expect(main.getByText("begins with: Seals").first()).toBeVisible();
  // One press opens a row, also one that is half cut off below.
  await row("Lanyards").click();
  const rest = main.getByRole("button", { name: "The rest is fitted" });
  await rest.click();
  const save = main.getByRole("button", { name: /^Save and next/ });
  await save.click();
  await expect(main.getByText("Hold: Lanyards first.")).toHaveCount(0);
  // A picture belongs to the seals: with it they are in, and what has to cure waits from then on.
  await row("Seals").click();
  await rest.click();
  await expect(
    main.getByText("A picture belongs to it: take one and record it again."),
  ).toBeVisible();
  await main.getByTestId("take-picture").setInputFiles({
    name: "seal.png",
    mimeType: "image/png",
    buffer: Buffer.from(
      "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==",
      "base64",
    ),
  });
  await expect(
    main.getByText("A picture belongs to it: take one and record it again."),
  ).toHaveCount(0);
  await save.click();
  await expect(main.getByText(/waits until .* to go/).first()).toBeVisible();
  await expect.poll(() => overflow(page)).toBeLessThanOrEqual(0);
  await nothingModerate(page);
  expect((await put(null)).ok()).toBe(true);
});

test("a Card of the whole job: folded, one touch, taken back, several fields, and a second person", async ({
  browser,
}) => {
  const page = await open(browser, { width: 1280, height: 800 });
  const put = await covering(page);
  const parts = ["cable", "power", "link"];
  expect((await put({ parts, byKind: { "number-plate": WHOLE } })).ok()).toBe(
    true,
  );
  await openStop(page, "GT-05");
  const main = page.getByRole("main");
  const section = (name: string) =>
    main.getByRole("button", { name: new RegExp(`^${name} `) });
  await expect(section("Fixing")).toHaveAttribute("aria-expanded", "false");
  await expect(main.getByRole("region", { name: "Waits" })).toContainText(
    "waits for a second person",
  );
  // A yes that nothing speaks against is one touch, and Z takes it back for a minute.
  await main.getByRole("button", { name: "No transit damage: yes" }).click();
  const damage = main.getByRole("button", { name: /^No transit damage,/ });
  await expect(damage).toHaveAccessibleName(/, in$/);
  await page.getByRole("button", { name: "Undo: No transit damage" }).click();
  await expect(damage).toHaveAccessibleName(/not taken/);
  // A named person's word is several fields at once.
  await main.getByRole("button", { name: /^Consent,/ }).click();
  await main.getByLabel("Name").fill("M. Okafor");
  await main.getByRole("radio", { name: "owner" }).click();
  await main.getByRole("radio", { name: "may be done", exact: true }).click();
  await main.getByRole("button", { name: /^Save and next/ }).click();
  await expect(
    main.getByRole("button", { name: /^Consent, .*Okafor.*, in$/ }),
  ).toBeVisible();
  // Beside a row stands what each answer would tell.
  await section("Night").click();
  await main.getByRole("button", { name: /^Night picture,/ }).click();
  await expect(
    main.getByText("Film, grease or dust on the cover"),
  ).toBeVisible();
  await nothingModerate(page);
  // Somebody comes: one press on the Walk, and nothing waits for him any more.
  await page.goto("/");
  await page.getByRole("button", { name: "On site" }).click();
  const sheet = page.getByRole("dialog");
  const second = sheet.getByRole("group", { name: "a second person" });
  await second.getByRole("button", { name: "Is here" }).click();
  await expect(second.getByText(/here since/)).toBeVisible();
  await nothingModerate(page);
  await page.keyboard.press("Escape");
  await openStop(page, "GT-05");
  await expect(main.getByRole("region", { name: "Waits" })).not.toContainText(
    "second person",
  );
  expect((await put(null)).ok()).toBe(true);
  await onSite(page, "second-person", null);
});

test("a recorder says in the hand what it has, and on the desk other figures are tried", async ({
  browser,
}) => {
  const phone = await open(browser, { width: 390, height: 844 });
  const put = await covering(phone);
  const parts = ["cable", "power", "link"];
  expect((await put({ parts, byKind: { recorder: ["recorder"] } })).ok()).toBe(
    true,
  );
  await openStop(phone, "R-2");
  const inHand = phone.getByRole("main");
  await inHand.getByRole("radio", { name: "all there, all healthy" }).click();
  await inHand.getByRole("button", { name: /^Save and next/ }).click();
  await expect(
    phone.getByRole("heading", { level: 1, name: "Days that it holds" }),
  ).toBeVisible();
  await expect(
    inHand.getByRole("radio", { name: "striped mirrors" }),
  ).toBeVisible();
  expect(await smallTargets(phone)).toEqual([]);
  await nothingModerate(phone);
  await inHand.getByRole("radio", { name: "one for parity" }).click();
  await inHand.getByLabel("Disks", { exact: true }).fill("6");
  await inHand.getByLabel(/^Size of each/).fill("12000");
  await inHand.getByLabel(/^Written in the last full day/).fill("1200");
  await inHand.getByRole("radio", { name: "read at the recorder" }).click();
  await inHand.getByLabel(/^Days promised/).fill("31");
  await inHand.getByRole("button", { name: /^Save/ }).first().click();
  const page = await open(browser, { width: 1280, height: 800 });
  await openStop(page, "R-2");
  const main = page.getByRole("main");
  await main.getByRole("button", { name: /^Days that it holds,/ }).click();
  await expect(main.getByText("Yes, 47.5 days")).toBeVisible();
  await expect(
    main.getByText(/nobody has said: nothing is judged/),
  ).toBeVisible();
  const days = main.getByRole("slider", { name: /^Days promised/ });
  await days.focus();
  await page.keyboard.press("End");
  await expect(main.getByText("No, 47.5 days")).toBeVisible();
  await expect(main.getByText(/too much for the days/)).toBeVisible();
  await nothingModerate(page);
  await main.getByRole("button", { name: "As read" }).click();
  await expect(main.getByText("Yes, 47.5 days")).toBeVisible();
  expect((await put(null)).ok()).toBe(true);
});

import { readFileSync } from "node:fs";
import { expect, type Page } from "@playwright/test";
import { axe, open, openStop, test } from "./site";

const cabinet = { width: 1280, height: 800 };

async function sign(page: Page, field: number) {
  const canvas = page.locator("canvas").nth(field);
  await canvas.scrollIntoViewIfNeeded();
  const box = (await canvas.boundingBox())!;
  await page.mouse.move(box.x + 40, box.y + 80);
  await page.mouse.down();
  for (let i = 0; i < 16; i++)
    await page.mouse.move(
      box.x + 40 + i * 10,
      box.y + 80 - 35 * Math.sin(i * 1.1),
    );
  await page.mouse.up();
}

test("both sign, the pack is sealed, and a changed copy is told from it", async ({
  browser,
}) => {
  const page = await open(browser, cabinet);
  await page.getByRole("link", { name: "Handover" }).click();
  await page.getByLabel("Contract", { exact: true }).fill("TF-2026-118");
  await page.getByRole("button", { name: "Keep the cover" }).click();
  await expect(
    page.getByRole("button", { name: "Keep the cover" }),
  ).toBeDisabled();
  await axe(page);

  // A number says which Cards make it up; from there it is one touch to the Card, and back.
  const open_ = page.getByRole("link", { name: /^Why \d+ Open$/ });
  const count = Number((await open_.getByText(/^\d+$/).textContent())!);
  await open_.click();
  await expect(page.getByRole("heading", { name: "Open" })).toBeVisible();
  await expect(page.getByRole("main").getByRole("listitem")).toHaveCount(
    Math.min(100, count),
  );
  await axe(page);
  await page.reload();
  await page
    .getByRole("main")
    .getByRole("listitem")
    .filter({ hasText: "CC-05" })
    .getByRole("link")
    .click();
  await expect(page.getByRole("heading", { name: "CC-05" })).toBeVisible();
  await page.goto("/power");
  await page.getByRole("button", { name: "Why K3" }).click();
  const why = page.getByRole("region", { name: "K3" });
  await expect(why.getByText(/^Asked for by draw, 7 devices/)).toBeVisible();
  // What the ports take adds up to what is said.
  const ports = (await why
    .locator("p")
    .filter({ hasText: /^port 1 / })
    .textContent())!;
  const taken = [...ports.matchAll(/([\d.]+) W/g)].reduce(
    (sum, m) => sum + Number(m[1]),
    0,
  );
  await expect(why.getByText(`together ${taken.toFixed(1)} W`)).toBeVisible();
  await page.getByRole("link", { name: "Handover" }).click();

  // The client reads the pack before he signs; it says on every page that it is a draft.
  await page.getByRole("button", { name: "Read it before signing" }).click();
  const draft = page.getByRole("link", { name: "Open the draft" });
  await expect(draft).toBeVisible({ timeout: 90_000 });
  const pdf = await page.request.get((await draft.getAttribute("href"))!);
  expect(pdf.headers()["content-type"]).toBe("application/pdf");
  expect((await pdf.body()).subarray(0, 5).toString()).toBe("%PDF-");

  // A signature without a name is told, and nothing is sealed. It outlives another page and a reload.
  await sign(page, 0);
  await page.getByRole("button", { name: "Seal with one signature" }).click();
  await expect(page.getByRole("alert")).toContainText(
    "Type the name of who signed here.",
  );
  await expect(page.getByLabel("Name", { exact: true }).nth(0)).toBeFocused();
  await page.getByLabel("Name", { exact: true }).nth(0).fill("Ina Solberg");
  await page.getByRole("link", { name: /^Why \d+ Refused$/ }).click();
  await page.goBack();
  await page.reload();
  await expect(page.getByLabel("Name", { exact: true }).nth(0)).toHaveValue(
    "Ina Solberg",
  );
  await page.getByRole("button", { name: "Seal with one signature" }).click();
  await expect(page.getByRole("dialog")).toContainText(
    "For the client has not signed.",
  );
  await page.getByRole("button", { name: "Go back" }).click();
  // Something that comes in between is told, and who signed says whether it holds.
  await page.getByLabel("Specification").fill("Quay cameras, issue C");
  await page.getByRole("button", { name: "Keep the cover" }).click();
  await expect(page.getByRole("alert")).toContainText(
    "Something came to the record",
  );
  await expect(
    page.getByRole("button", { name: "Seal with one signature" }),
  ).toBeDisabled();
  await page.getByRole("button", { name: "Looked at again: it holds" }).click();
  await sign(page, 1);
  await page.getByLabel("Name", { exact: true }).nth(1).fill("Marit Holm");
  await page
    .getByLabel("Reservations of the client")
    .fill("CC-07 to be retested.");
  await page.getByLabel("German").check();
  await page.getByRole("button", { name: "Seal with 2 signatures" }).click();
  const revision = page
    .getByRole("listitem")
    .filter({ hasText: "Marit Holm" })
    .first();
  await expect(revision).toContainText("Reserved: CC-07 to be retested.", {
    timeout: 90_000,
  });
  await expect(
    revision.getByRole("link", { name: "report.de.pdf" }),
  ).toBeVisible();

  const record = await page.request.get(
    (await revision
      .getByRole("link", { name: "record.json" })
      .getAttribute("href"))!,
  );
  const text = (await record.body()).toString();
  await page.getByRole("link", { name: "Verify a record" }).click();
  const choose = page.getByLabel("Choose the file");
  await choose.setInputFiles({
    name: "record.json",
    mimeType: "application/json",
    buffer: Buffer.from(text),
  });
  await expect(
    page.getByText("Untouched: this is what was sealed, byte for byte."),
  ).toBeVisible();
  await expect(page.getByText("Marit Holm")).toBeVisible();
  await choose.setInputFiles({
    name: "record.json",
    mimeType: "application/json",
    buffer: Buffer.from(
      text.replace("CC-07 to be retested", "CC-08 to be retested"),
    ),
  });
  await expect(
    page.getByText("Altered. Not as sealed: reservations."),
  ).toBeVisible();
  await axe(page);
});

test("a picture is taken in the hand and erased lawfully", async ({
  browser,
}) => {
  const page = await open(browser, { width: 390, height: 664 });
  await openStop(page, "GT-06");
  await page.getByRole("button", { name: /GT-06/ }).click();
  await page.getByRole("link", { name: "Pictures" }).click();
  await page.getByLabel("What it shows").fill("Kerb and plates");
  await page.getByLabel("Shows people or number plates").check();
  await page.getByLabel("Add a picture").setInputFiles({
    name: "kerb.jpg",
    mimeType: "image/jpeg",
    buffer: Buffer.from("no picture"),
  });
  await expect(page.getByRole("alert")).toContainText("no JPEG or PNG");
  const png = readFileSync(
    new URL("../../docs/screenshots/phone-walk.png", import.meta.url),
  );
  // Without a network it is kept here, and sent when there is one.
  await page.context().setOffline(true);
  await page
    .getByLabel("Add a picture")
    .setInputFiles({ name: "kerb.png", mimeType: "image/png", buffer: png });
  await expect(
    page.getByText("A picture is kept on this device"),
  ).toBeVisible();
  await page.context().setOffline(false);
  await expect(
    page.getByRole("img", { name: "Kerb and plates" }),
  ).toBeVisible();
  await axe(page);
  await page.getByRole("button", { name: "Erase" }).click();
  await page.getByLabel("Who has it erased").fill("Marit Holm");
  await page.getByLabel("Why").fill("A plate can be read");
  await page.getByRole("button", { name: "Erase for good" }).click();
  await expect(page.getByText(/Erased by Marit Holm/)).toBeVisible();
  await expect(page.getByRole("img", { name: "Kerb and plates" })).toHaveCount(
    0,
  );
});

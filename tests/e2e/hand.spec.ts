import { readFileSync } from "node:fs";
import { expect } from "@playwright/test";
import { open, openStop, test } from "./site";

test("on the phone, with the network cut and restored, nothing is lost", async ({
  browser,
}) => {
  const page = await open(browser, { width: 390, height: 844 });
  await openStop(page, "PT-03");
  await page.getByRole("radio", { name: /^yes/ }).click();
  await page.getByRole("button", { name: "Save and next" }).click();
  await expect(page.getByRole("heading", { name: "Wire map" })).toBeVisible();
  await page.evaluate(() =>
    navigator.serviceWorker.ready.then(() => undefined),
  );

  await page.context().setOffline(true);
  for (const pin of ["1", "2", "3", "4", "5", "6", "7", "8"])
    await page.getByRole("button", { name: pin, exact: true }).click();
  await page.getByRole("button", { name: "Save and next" }).click();
  await expect(page.getByRole("heading", { name: "Length" })).toBeVisible();
  await expect(page.getByText("1 not sent")).toBeVisible();
  // What it was seen in is kept with it, and goes before it.
  await page.getByTestId("take-picture").setInputFiles({
    name: "meter.png",
    mimeType: "image/png",
    buffer: readFileSync(
      new URL("../../docs/screenshots/phone-walk.png", import.meta.url),
    ),
  });
  await expect(page.getByText("Pictures (1)")).toBeVisible();
  for (const key of ["3", "9", ".", "1"])
    await page.getByRole("button", { name: key, exact: true }).click();
  await expect(page.getByText(/in, provisional/i)).toBeVisible();

  // What is typed and what was pressed both outlive a reload without a network.
  await page.reload();
  await page.getByRole("button", { name: /All Checks/ }).click();
  await page.getByRole("button", { name: /^Length/ }).click();
  await expect(page.getByTestId("hand-entry")).toHaveText("39.1");
  await page.getByRole("button", { name: "Save and next" }).click();
  await expect(page.getByText("3 not sent")).toBeVisible();

  await page.context().setOffline(false);
  await expect(page.getByText(/not sent/)).toHaveCount(0, { timeout: 90_000 });
  // The address says which job it is of, and the reading which picture.
  const address = /\/job\/[0-9a-f-]{36}\/card\/([0-9a-f-]{36})/.exec(
    page.url(),
  )!;
  const card = await (
    await page.request.get(`/api/cards/${address[1]}`)
  ).json();
  const length = card.card.rows.find(
    (row: { key: { check: string } }) => row.key.check === "cable.length",
  );
  expect(length.attempts.at(-1).evidence).toHaveLength(1);
  await page.getByRole("button", { name: /All Checks/ }).click();
  await expect(page.getByRole("button", { name: /^Length.*in/ })).toContainText(
    "39.1 m",
  );
  await expect(page.getByRole("button", { name: /^Wire map/ })).toContainText(
    "in",
  );
});

test("a slip is refused in words and waits to be mended", async ({
  browser,
}) => {
  const page = await open(browser, { width: 390, height: 844 });
  await openStop(page, "PT-05");
  await page.getByRole("button", { name: /All Checks/ }).click();
  await page.getByRole("button", { name: /^Length/ }).click();
  for (const key of ["9", "9", "9", "9", "9"])
    await page.getByRole("button", { name: key, exact: true }).click();
  await expect(page.getByText(/cannot be: between/)).toBeVisible();
  await expect(page.getByRole("button", { name: "Save and next" })).toHaveCount(
    0,
  );
});

test("fingers that are quicker than the network are judged by what they saved", async ({
  browser,
}) => {
  const page = await open(browser, { width: 390, height: 844 });
  await openStop(page, "FB-04");
  await page.getByRole("button", { name: /All Checks/ }).click();
  await page.getByRole("button", { name: /^Wire map/ }).click();
  const heading = page.getByRole("heading", { level: 1 });
  await expect(heading).toHaveText("Wire map");
  const pins = async (...pressed: number[]) => {
    for (const pin of pressed)
      await page
        .getByRole("button", { name: String(pin), exact: true })
        .click();
  };
  // A straight map is judged in; then two pins change places, and it is saved before the screen says so.
  await pins(1, 2, 3, 4, 5, 6, 7, 8);
  await expect(page.getByText(/^in$/i).first()).toBeVisible();
  await page.getByRole("button", { name: /^1 / }).click();
  await pins(2);
  await page.getByRole("button", { name: "Save and next" }).click();
  // It stays, with its cause, and is not passed over.
  await expect(page.getByText(/^out$/i).first()).toBeVisible();
  await expect(heading).toHaveText("Wire map");
});

import { expect } from "@playwright/test";
import { nothingModerate, open, openStop, overflow, test } from "./site";

test("a plate reader is driven by, its list is held against the drive, and the Card knows", async ({
  browser,
}) => {
  test.slow();
  const page = await open(browser, { width: 1280, height: 800 });
  const main = page.getByRole("main");
  const sheet = page.getByRole("dialog");
  await openStop(page, "GT-01");
  await main.getByRole("link", { name: "Drive", exact: true }).click();
  await expect(
    main.getByRole("button", { name: "Agree the drive" }),
  ).toBeVisible();
  const device = new URL(page.url()).pathname.split("/").at(-1)!;

  // What is careless is said at once; a drive that is agreed says how long it takes.
  await main.getByRole("button", { name: "Agree the drive" }).click();
  await sheet.getByRole("button", { name: "Agree", exact: true }).click();
  await expect(sheet.getByText(/Give each vehicle its plate/)).toBeVisible();
  await sheet.getByLabel("Plate of A").fill("46-TH-1207");
  await sheet.getByRole("button", { name: "One more vehicle" }).click();
  await sheet.getByLabel("Plate of B").fill("46-TH-883");
  await nothingModerate(page);
  await sheet.getByRole("button", { name: "Agree", exact: true }).click();
  await expect(
    main.getByText(/73 passes by day and 73 by night/),
  ).toBeVisible();
  await expect(page.getByTestId("next-pass")).toContainText("A, 20 km/h");

  // At the roadside there is no network: nothing is lost, and a slip is taken back.
  const phone = await open(browser, { width: 390, height: 844 }, "Marek Dune");
  await phone.goto(`/plates/${device}`);
  await expect(phone.getByTestId("driven")).toHaveText("0");
  await phone.context().setOffline(true);
  await phone.getByRole("button", { name: "A passed" }).click();
  await expect(phone.getByText("1 pass is kept here")).toBeVisible();
  await expect(phone.getByTestId("driven")).toHaveText("1");
  await expect(phone.getByTestId("next-pass")).toContainText("B, 20 km/h");
  expect(await overflow(phone)).toBeLessThanOrEqual(0);
  await phone.context().setOffline(false);
  await expect(phone.getByText("1 pass is kept here")).toBeHidden();
  await phone.getByRole("button", { name: /That was a slip/ }).click();
  await expect(phone.getByTestId("driven")).toHaveText("0");
  await nothingModerate(phone);
  await phone.context().close();

  // A dozen passes of the made-up world; an emblem is read as a letter, so some are wrong.
  const driven = page.getByTestId("driven");
  await expect(driven).toHaveText("0");
  const next = main.getByRole("button", { name: "Drive the next pass" });
  for (let i = 1; i <= 3; i++) {
    await next.click();
    await expect(driven).toHaveText(`${i}`);
  }
  await main.getByRole("button", { name: "Drive the other 70" }).click();
  await expect(driven).toHaveText("73");
  await expect(main.getByText(/not sent yet/)).toBeHidden({ timeout: 60_000 });
  await main.getByRole("button", { name: "Have the list from R-1" }).click();
  await expect(page.getByTestId("list-says")).toContainText("R-1");
  await expect(page.getByTestId("drive-told")).toContainText(
    "A letter is put in at the end of the plate",
  );
  await expect(page.getByTestId("drive-result")).toContainText("not reached");
  await nothingModerate(page);

  await main.getByRole("button", { name: "Put the count on the Card" }).click();
  await expect(main.getByText("The Card has this count.")).toBeVisible();
  const { card } = (await (
    await page.request.get(`/api/cards/${device}`)
  ).json()) as { card: { rows: { key: { check: string }; state: string }[] } };
  expect(
    card.rows
      .filter((r) => r.key.check.startsWith("plates.trial"))
      .map((r) => r.state)
      .sort(),
  ).toEqual(["notTaken", "out"]);
});

import { expect } from "@playwright/test";
import {
  alwaysNight,
  nothingModerate,
  open,
  openStop,
  overflow,
  test,
} from "./site";

test("a plate reader is driven by, its list is held against the drive, and the Card knows", async ({
  browser,
}) => {
  test.slow();
  const page = await open(browser, { width: 1280, height: 800 });
  const main = page.getByRole("main");
  const sheet = page.getByRole("dialog");
  const day = await alwaysNight(page);
  try {
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
    await expect(main.getByText("driven by night, 73 more")).toBeVisible();

    // At the roadside there is no network: nothing is lost, and a slip is taken back.
    const phone = await open(
      browser,
      { width: 390, height: 844 },
      "Marek Dune",
    );
    await phone.goto(`/plates/${device}`);
    await expect(phone.getByTestId("driven")).toHaveText("0");
    await phone.context().setOffline(true);
    await phone.getByRole("button", { name: "A passed" }).click();
    await expect(phone.getByText("1 pass is kept here")).toBeVisible();
    await expect(phone.getByTestId("driven")).toHaveText("1");
    await expect(phone.getByTestId("next-pass")).toContainText("B, 20 km/h");
    await expect.poll(() => overflow(phone)).toBeLessThanOrEqual(0);
    await phone.context().setOffline(false);
    await expect(phone.getByText("1 pass is kept here")).toBeHidden();
    await phone.getByRole("button", { name: /That was a slip/ }).click();
    await expect(phone.getByTestId("driven")).toHaveText("0");
    await nothingModerate(phone);
    await phone.context().close();

    // The made-up world drives by; an emblem is read as a letter, so some are wrong, and more of the same would not help.
    const driven = page.getByTestId("driven");
    const result = page.getByTestId("drive-result");
    const drive = async () => {
      await expect(driven).toHaveText("0", { timeout: 120_000 });
      await main.getByRole("button", { name: "Drive all 73" }).click();
      await expect(driven).toHaveText("73");
      await expect(main.getByText(/not sent yet/)).toBeHidden({
        timeout: 120_000,
      });
      await main
        .getByRole("button", { name: "Have the list from R-1" })
        .click();
      await expect(result).toContainText("of 73 read right");
    };
    await drive();
    await expect(page.getByTestId("list-says")).toContainText("R-1");
    await expect(page.getByTestId("drive-told")).toContainText(
      "A letter is put in at the end of the plate",
    );
    await expect(result).toContainText("not reached");
    await expect(page.getByTestId("next-pass")).toContainText(
      "mend the reader first",
    );
    await nothingModerate(page);

    const row = async () => {
      const { card } = (await (
        await page.request.get(`/api/cards/${device}`)
      ).json()) as {
        card: { rows: { key: { check: string }; state: string }[] };
      };
      return card.rows.find((r) => r.key.check === "plates.trial-night")!.state;
    };
    const put = main.getByRole("button", { name: "Put the count on the Card" });
    await put.click();
    await expect(main.getByText("The Card has this count.")).toBeVisible();
    expect(await row()).toBe("out");

    // Put right it reads as it should, or lacks a few passes more; the Card is told again.
    await main
      .getByRole("button", { name: "Set the reader right, and begin anew" })
      .click();
    await drive();
    await expect(result).not.toContainText("not reached");
    await put.click();
    await expect(main.getByText("The Card has this count.")).toBeVisible();
    expect(["in", "tooClose"]).toContain(await row());
  } finally {
    await day();
  }
});

import { expect, type Page } from "@playwright/test";
import {
  anew,
  byHand,
  lookThrough,
  nothingModerate,
  open,
  overflow,
  row,
  test,
} from "./site";

const picture = (page: Page) => page.getByTestId("focus-picture");

test("a ring is turned until its picture says stop, and what tightening and the cover do is measured", async ({
  browser,
}) => {
  test.slow();
  const page = await open(browser, { width: 1280, height: 800 });
  const main = page.getByRole("main");
  const sheet = page.getByRole("dialog");
  const words = page.getByTestId("focus-words");
  const device = await lookThrough(page, "focus", "CC-16");

  // One picture alone tells nothing, and no row.
  await expect(words).toContainText("Turn slowly", { timeout: 90_000 });
  await expect(page.getByTestId("focus-says")).toContainText("Nothing tells");
  await nothingModerate(page);

  // The ring by a hand that knows nothing but the words.
  const hand = page.getByTestId("demo-ring");
  const turn = async (way: string, by: string) => {
    await hand.getByRole("button", { name: by, exact: true }).click();
    await byHand(page, () =>
      hand.getByRole("button", { name: way, exact: true }).click(),
    );
    await anew(page, "focus");
  };
  const opposite = { near: "far", far: "near" } as const;
  let way: "near" | "far" = "near";
  let [by, passed] = ["1", 0];
  for (let turns = 0; turns < 45; turns++) {
    const text = await words.innerText();
    if (/^Stop/.test(text)) break;
    if (/^Other way/.test(text)) {
      way = opposite[way];
      if (++passed > 1) by = "0.5";
      if (passed > 4) by = "0.2";
    }
    await turn(way, by);
  }
  await expect(words.getByText("Stop", { exact: true })).toBeVisible();
  const [truth] = (await (
    await page.request.get("/api/demo/views/CC-16")
  ).json()) as { offSharpest: number }[];
  expect(Math.abs(truth!.offSharpest)).toBeLessThan(0.75);

  // Kept only once it is said how the cover is.
  const keep = main.getByRole("button", { name: "Keep this focus" });
  await expect(keep).toBeDisabled();
  await main.getByRole("radio", { name: "on", exact: true }).click();
  await keep.click();
  await expect(sheet.getByText("Focus as left")).toBeVisible();
  await expect(sheet.getByText("sharp to the corners")).toBeVisible();
  await nothingModerate(page);
  await sheet.getByRole("button", { name: "Next" }).click();

  // Its cover moves focus: against the picture before, that is seen.
  await main.getByRole("button", { name: /cover changed/ }).click();
  await byHand(page, () =>
    hand.getByRole("button", { name: "take its cover off" }).click(),
  );
  await anew(page, "focus");
  await expect(main.getByText(/Against the picture before/)).toBeVisible();
  await expect(main.getByRole("row", { name: /^Target/ })).toContainText(
    "softer",
  );

  // In the hand the same is seen, and begins anew where somebody touches.
  const phone = await open(browser, { width: 390, height: 664 }, "Marek Dune");
  await phone.goto(`/focus/${device}`);
  await expect(phone.getByTestId("focus-words")).toBeVisible();
  await expect.poll(() => overflow(phone)).toBeLessThanOrEqual(0);
  await nothingModerate(phone);
  await phone.getByRole("slider").press("ArrowUp");
  await expect(phone.getByTestId("focus-words")).toContainText("Turn slowly", {
    timeout: 90_000,
  });
  await phone.context().close();

  // The Card has it, and leads back here.
  await page.goto(`/card/${device}`);
  await row(page, "Focus as left").click();
  await expect(page.getByText(/measured in a picture/).first()).toBeVisible();
  await page.getByRole("link", { name: "Focus", exact: true }).click();
  await expect(picture(page)).toBeVisible();
});

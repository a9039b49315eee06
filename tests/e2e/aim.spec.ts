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

interface Truth {
  pan: number;
  tilt: number;
  roll: number;
}

const truthOf = async (page: Page): Promise<Truth> =>
  (
    (await (await page.request.get("/api/demo/views/BW-04")).json()) as Truth[]
  )[0]!;

const picture = (page: Page) => page.getByTestId("aim-picture");

test("a camera is turned until its picture says stop, and tightening is measured", async ({
  browser,
}) => {
  const page = await open(browser, { width: 1280, height: 800 });
  const main = page.getByRole("main");
  const sheet = page.getByRole("dialog");
  const words = page.getByTestId("aim-words");
  const device = await lookThrough(page, "aim", "BW-04");
  // Nobody has agreed to a view.
  await expect(main.getByText(/Nobody has agreed to a view/)).toBeVisible();

  // As it hangs now it is agreed.
  const agreed = await truthOf(page);
  await main.getByRole("button", { name: "This is the agreed view" }).click();
  await sheet.getByLabel("Who agrees").fill("Odile Farrow");
  await sheet.getByRole("button", { name: "Agree", exact: true }).click();
  await expect(main.getByText(/What comes next is held/)).toBeVisible();
  await expect(words.getByText("Stop", { exact: true })).toBeVisible();

  // Somebody leans on it.
  const hand = page.getByTestId("demo-turn");
  const turn = async (way: string, by: string) => {
    await hand.getByRole("button", { name: by, exact: true }).click();
    await byHand(page, () =>
      hand.getByRole("button", { name: way, exact: true }).click(),
    );
  };
  await turn("right", "2°");
  await turn("down", "2°");
  await turn("clockwise", "0.5°");
  await turn("clockwise", "0.5°");
  await anew(page, "aim");
  await expect(words).toContainText("left");

  // On the ladder, a second device shows the same.
  const phone = await open(browser, { width: 390, height: 664 }, "Marek Dune");
  await phone.goto(`/aim/${device}`);
  await expect(phone.getByTestId("aim-words")).toContainText("left");
  await expect.poll(() => overflow(phone)).toBeLessThanOrEqual(0);
  await nothingModerate(phone);

  // Turned as the words say, and no other way.
  for (let turns = 0; turns < 40; turns++) {
    const text = await words.innerText();
    if (/^Stop/.test(text)) break;
    const [, degrees, way] =
      /^(\d+(?:\.\d)?)\s*°\s*(left|right|up|down|clockwise|against the clock)/.exec(
        text.replace(/\s+/g, " "),
      ) ?? [];
    if (way) {
      const by = Number(degrees);
      await turn(way, by >= 2 ? "2°" : by >= 0.5 ? "0.5°" : "0.1°");
    }
    await anew(page, "aim");
  }
  await expect(words.getByText("Stop", { exact: true })).toBeVisible();
  await expect(
    phone.getByTestId("aim-words").getByText("Stop", { exact: true }),
  ).toBeVisible();
  const hangs = await truthOf(page);
  expect(
    Math.hypot(hangs.pan - agreed.pan, hangs.tilt - agreed.tilt),
  ).toBeLessThan(0.5);
  expect(Math.abs(hangs.roll - agreed.roll)).toBeLessThan(0.5);

  // The phone loses the record: said, and nothing old is shown as new.
  await phone.context().setOffline(true);
  await expect(phone.getByText(/The record cannot be reached/)).toBeVisible();
  await phone.context().close();

  // Kept before the screws, then tightened.
  await main.getByRole("button", { name: "Keep this" }).click();
  await expect(sheet.getByText("Off the agreed view")).toBeVisible();
  await expect(sheet.getByText("Aim before locking")).toBeVisible();
  await nothingModerate(page);
  await sheet.getByRole("button", { name: "Next" }).click();
  await main.getByRole("button", { name: "Locked: look again" }).click();
  await expect(main.getByText("Screws tight")).toBeVisible();
  await hand.getByRole("button", { name: "tighten the screws" }).click();
  await expect(
    main.getByText(/Tightening moved it by 0\.[4-8]°/),
  ).toBeVisible();

  // Hands off, one push, hands off: it stands still.
  await main.getByRole("button", { name: "Does it stand still?" }).click();
  const stands = page.getByTestId("sway-words");
  await expect(stands).toContainText("Hands off");
  await nothingModerate(page);
  await expect(stands).toContainText("Push it once", { timeout: 90_000 });
  await hand.getByRole("button", { name: "push it once" }).click();
  await expect(stands).toContainText("Stands still", { timeout: 90_000 });
  await main.getByRole("button", { name: "Keep how it stands" }).click();
  await expect(sheet.getByText("Sway", { exact: true })).toBeVisible();
  await expect(sheet.getByText("still, a push by hand too")).toBeVisible();
  await sheet.getByRole("button", { name: "Next" }).click();

  // How level it hangs is measured between two grips, and not before both are put.
  await main.getByRole("button", { name: "Measure in the picture" }).click();
  const touched = page.getByTestId("aim-touched");
  await expect(touched).toContainText("Put both grips");
  for (const grip of ["First end", "Other end"]) {
    await page.getByRole("slider", { name: grip }).focus();
    for (let i = 0; i < 5; i++) await page.keyboard.press("Shift+ArrowUp");
  }
  await expect(touched).toContainText(/0\.0°\s*± 0\.\d/);
  await nothingModerate(page);
  await main.getByRole("button", { name: "Keep this figure" }).click();
  await expect(sheet.getByText("Roll", { exact: true })).toBeVisible();
  await sheet.getByRole("button", { name: "Next" }).click();

  // The Card has it, measured in a picture.
  await page.goto(`/card/${device}`);
  await row(page, "Off the agreed view").click();
  await expect(page.getByText(/measured in a picture/).first()).toBeVisible();
});

test("a lamp that burns in the view is touched, and told to the Card", async ({
  browser,
}) => {
  test.slow();
  const page = await open(browser, { width: 1280, height: 800 });
  const main = page.getByRole("main");
  const sheet = page.getByRole("dialog");
  const hand = page.getByTestId("demo-turn");
  const touched = page.getByTestId("aim-touched");
  await lookThrough(page, "aim", "VL-04");
  const around = async () => {
    await main.getByRole("button", { name: "Measure in the picture" }).click();
    await main.getByRole("radio", { name: "a lamp" }).click();
    await expect(touched).toContainText("at two corners around the lamp");
    // From a quarter and three quarters of the width to both sides of the lamp, by the keys: ten pixels of 640 at once.
    const put = async (grip: string, across: number, up: number) => {
      await page.getByRole("slider", { name: grip }).focus();
      const way = across < 0 ? "Shift+ArrowLeft" : "Shift+ArrowRight";
      for (let i = 0; i < Math.abs(across); i++) await page.keyboard.press(way);
      for (let i = 0; i < up; i++) await page.keyboard.press("Shift+ArrowUp");
    };
    await put("First end", 28, 12);
    await put("Other end", 3, 8);
  };
  try {
    await around();
    await expect(touched).toContainText("It does not burn in this picture");
    await main.getByRole("button", { name: "Enough" }).click();
    await hand.getByRole("button", { name: "let night fall" }).click();
    await expect(
      hand.getByRole("button", { name: "let it be day" }),
    ).toBeVisible();
    await main.getByRole("button", { name: "Look through the camera" }).click();
    await anew(page, "aim");
    await around();
    await expect(touched).toContainText("It burns in the picture");
    await expect(touched).toContainText("Nothing in the view that harms it");
    await nothingModerate(page);
    await main.getByRole("button", { name: "Keep what it says" }).click();
    await expect(
      sheet.getByText("Nothing in the view that harms it"),
    ).toBeVisible();
    await nothingModerate(page);
  } finally {
    await page.request.post("/api/demo/clock", {
      data: { speed: null, dark: false },
    });
  }
});

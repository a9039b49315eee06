import { expect } from "@playwright/test";
import {
  anew,
  byHand,
  lookThrough,
  nothingModerate,
  open,
  overflow,
  test,
} from "./site";

test("what lies over a picture in the dark is named, tried against, and gone", async ({
  browser,
}) => {
  test.slow();
  const page = await open(browser, { width: 1280, height: 800 });
  const main = page.getByRole("main");
  const sheet = page.getByRole("dialog");
  const words = page.getByTestId("night-words");
  const night = (dark: boolean) =>
    page.request.post("/api/demo/clock", { data: { speed: null, dark } });

  // By day its view is agreed, with its picture.
  const device = await lookThrough(page, "aim", "VL-03");
  await main.getByRole("button", { name: "This is the agreed view" }).click();
  await sheet.getByLabel("Who agrees").fill("Odile Farrow");
  await sheet.getByRole("button", { name: "Agree", exact: true }).click();
  await expect(main.getByText(/What comes next is held/)).toBeVisible();

  try {
    await page.goto(`/night/${device}`);
    await main.getByRole("button", { name: "Look through the camera" }).click();
    await sheet.getByRole("button", { name: "Login of the demo" }).click();
    await expect(sheet.getByLabel("User")).toHaveValue("site");
    await sheet.getByRole("button", { name: "Log in and look" }).click();
    // While it sees by day nothing of the night is told.
    await expect(words).toContainText("Still by day", { timeout: 90_000 });
    await expect(page.getByTestId("night-says")).toContainText("Nothing tells");

    await page
      .getByTestId("demo-night")
      .getByRole("button", { name: "let night fall" })
      .click();
    await expect(words).toContainText("Light lies over it", {
      timeout: 90_000,
    });
    await anew(page, "night");
    const reasons = main.getByRole("region", { name: /^Why/ });
    await expect(reasons.getByRole("listitem").first()).toContainText(
      "Light barrier",
    );
    await nothingModerate(page);

    // What does not help is told as such; what does, names it.
    const tries = page.getByTestId("night-tries");
    const hand = page.getByTestId("demo-night");
    const first = main.getByRole("region", { name: "Try first" });
    await first.getByRole("button", { name: "Press the light" }).click();
    await hand.getByRole("button", { name: "press its light barrier" }).click();
    await expect(tries).toContainText("helped", { timeout: 90_000 });
    await expect(words).not.toContainText("Light lies over it");
    await expect(reasons.getByRole("listitem").first()).toContainText("> 95 %");

    // Gone, it can still have been something else.
    await expect(
      main
        .getByRole("region", { name: "Was it something else" })
        .getByRole("button", { name: "Wiped the cover" }),
    ).toBeVisible();
    await nothingModerate(page);

    await main.getByRole("button", { name: "Keep this night picture" }).click();
    await expect(sheet.getByText("Night picture")).toBeVisible();
    await nothingModerate(page);
    await sheet.getByRole("button", { name: "Next" }).click();

    // In the hand the same is seen.
    const phone = await open(
      browser,
      { width: 390, height: 664 },
      "Marek Dune",
    );
    await phone.goto(`/night/${device}`);
    await expect(phone.getByTestId("night-tries")).toContainText("helped");
    await expect.poll(() => overflow(phone)).toBeLessThanOrEqual(0);
    await nothingModerate(phone);
    await phone.context().close();
  } finally {
    await night(false);
  }
});

test("a white light answers a walk, brings colour back and goes off again", async ({
  browser,
}) => {
  test.slow();
  const page = await open(browser, { width: 390, height: 844 });
  const main = page.getByRole("main");
  const sheet = page.getByRole("dialog");
  const hand = page.getByTestId("demo-night");
  const light = page.getByTestId("night-lamp");
  const device = await lookThrough(page, "night", "GT-07");
  try {
    // By day that it stays off tells nothing.
    await expect(light).toContainText("Wait for the dark", { timeout: 90_000 });
    await hand.getByRole("button", { name: "let night fall" }).click();
    await expect(light).toContainText("Nobody walked through yet", {
      timeout: 90_000,
    });
    await main.getByRole("button", { name: "I walk through now" }).click();
    await byHand(page, () =>
      hand.getByRole("button", { name: "walk past it" }).click(),
    );
    await expect(light).toContainText("colour is back", { timeout: 90_000 });
    await nothingModerate(page);
    await expect.poll(() => overflow(page)).toBeLessThanOrEqual(0);
    await expect(light).toContainText("It went off", { timeout: 90_000 });
    await main.getByRole("button", { name: "Keep this night picture" }).click();
    await expect(sheet.getByText("White light").first()).toBeVisible();
    await nothingModerate(page);
  } finally {
    await page.request.post("/api/demo/clock", {
      data: { speed: null, dark: false },
    });
  }
  expect(device).toBeTruthy();
});

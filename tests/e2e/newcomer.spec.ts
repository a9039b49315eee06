import { expect, type Locator, type Page } from "@playwright/test";
import {
  nothingModerate,
  open,
  openStop,
  overflow,
  smallTargets,
  test,
} from "./site";

/**
 * A healthy camera to its Verdict by somebody new: ten Checks, and each press does what it says. On short
 * runs, since another journey lowers the company's limit. What is counted are presses from the open
 * Card on.
 */
const days = [
  {
    screen: "phone",
    size: { width: 390, height: 844 },
    stop: "CC-09",
    way: "touch",
    most: 14,
  },
  {
    screen: "phone on its side",
    size: { width: 844, height: 390 },
    stop: "CC-14",
    way: "touch",
    most: 14,
  },
  {
    screen: "desk at 200 %",
    size: { width: 640, height: 400 },
    stop: "GT-04",
    way: "keys",
    most: 14,
  },
  {
    screen: "tablet",
    size: { width: 1024, height: 768 },
    stop: "PT-06",
    way: "touch",
    most: 15,
  },
  {
    screen: "desk, by mouse",
    size: { width: 1280, height: 800 },
    stop: "PT-01",
    way: "touch",
    most: 15,
  },
  {
    screen: "desk, by keys",
    size: { width: 1280, height: 800 },
    stop: "PT-04",
    way: "keys",
    most: 22,
  },
] as const;

/** The Checks in their order, and how many rows one answer of the tester saves. */
const checks = [
  "Label",
  "Wire map",
  "Length",
  "Loop resistance, pair 1-2",
  "Volts at camera",
  "Volts at camera",
  "Speed",
];

for (const { screen, size, stop, way, most } of days)
  test(`a newcomer accepts a camera on the ${screen} without a wrong press`, async ({
    browser,
  }) => {
    const page = await open(browser, size);
    await openStop(page, stop);
    const main = page.getByRole("main");
    const inHand = size.width < 600 || size.height < 480;
    const asked = (name: string) =>
      inHand
        ? page.getByRole("heading", { name, level: 1 })
        : main.getByRole("group", { name: new RegExp(`^${name}`) }).first();
    await nothingModerate(page);
    const began = Date.now();
    let presses = 0;
    const press = async (what: Locator | string) => {
      presses++;
      if (typeof what === "string") await page.keyboard.press(what);
      else await what.click();
    };
    const byKeys = way === "keys";
    if (!inHand)
      await press(
        byKeys ? "Enter" : main.getByRole("button", { name: /^Label,/ }),
      );
    for (const [n, name] of checks.entries()) {
      await expect(asked(name)).toBeVisible();
      if (n === 5)
        await expect(main.getByText(/infrared on/).first()).toBeVisible();
      await expect.poll(() => nowhere(page)).toBe(false);
      // Nothing is wider than the window, and in the hand nothing is too small for a glove.
      await expect.poll(() => overflow(page), name).toBeLessThanOrEqual(0);
      if (inHand) expect(await smallTargets(page), name).toEqual([]);
      const onward = main.getByRole("button", { name: /^Save (and next|all)/ });
      if (name === "Label") {
        await press(byKeys ? "y" : main.getByRole("radio", { name: /^yes/ }));
        await expect(onward).toBeEnabled();
      } else {
        await press(
          byKeys ? "t" : main.getByRole("button", { name: /Read tester/ }),
        );
        await expect(onward.last()).toBeEnabled();
        if (byKeys && inHand) await expect(onward).toBeFocused();
      }
      const all = main.getByRole("button", { name: "Save all 4" });
      if (name.startsWith("Loop")) {
        // Nothing is saved unseen: all four stand there, judged.
        await expect(main.getByText(/^pair 7-8 .* in$/)).toBeVisible();
        if (byKeys && !inHand) await press("Tab");
        await press(byKeys ? "Enter" : all);
      } else await press(byKeys ? "Enter" : onward.first());
    }
    await expect(page.getByTestId("verdict")).toHaveText("Accepted");
    console.log(
      `${screen}: ${presses} presses, ${((Date.now() - began) / 1000).toFixed(0)} s`,
    );
    await nothingModerate(page);
    const next = page.getByRole("button", { name: /^Next Stop/ });
    await expect(next).toBeVisible();
    await expect.poll(() => nowhere(page)).toBe(false);
    expect(presses).toBeLessThanOrEqual(most);
    // And the way on is one press more.
    if (byKeys) await expect(next).toBeFocused();
    const here = page.url();
    await next.click();
    await expect.poll(() => page.url()).not.toBe(here);
  });

/**
 * Nobody waits for the screen: a key that comes right after Enter is of the row that comes next.
 */
for (const [stop, size] of [
  ["CC-02", { width: 640, height: 400 }],
  ["CC-08", { width: 1280, height: 800 }],
] as const)
  test(`keys as fast as they come go to the row that comes, at ${size.width} px`, async ({
    browser,
  }) => {
    const page = await open(browser, size);
    const inHand = size.width < 1024;
    await openStop(page, stop);
    const main = page.getByRole("main");
    const row = (name: string) =>
      inHand
        ? page.getByRole("heading", { name, level: 1 })
        : main.getByRole("group", { name: new RegExp(`^${name}`) }).first();
    if (!inHand) await main.getByRole("button", { name: /^Label,/ }).click();
    await expect(row("Label")).toBeVisible();
    await page.keyboard.press("y");
    await expect(
      main.getByRole("button", { name: /^Save and next/ }).first(),
    ).toBeEnabled();
    // Saved, read, and saved again at once: the last is not taken, since nobody has seen what was read.
    let answer = () => {};
    const isAnswered = new Promise<void>((go) => (answer = go));
    await page.route("**/tester", async (route) => {
      await isAnswered;
      await route.continue();
    });
    for (const key of ["Enter", "t", "Enter"]) await page.keyboard.press(key);
    answer();
    await expect(row("Wire map")).toBeVisible();
    const save = main.getByRole("button", { name: /^Save and next/ }).first();
    await expect(save).toBeEnabled();
    await page.keyboard.press("Enter");
    await expect(row("Length")).toBeVisible();
    // What is typed on goes into the field, digit by digit.
    if (inHand) await enterWith(page, "Save and next");
    await page.keyboard.press("t");
    if (!inHand) {
      await expect(save).toBeEnabled();
      await page.keyboard.press("Enter");
    }
    await expect(row("Length")).toBeHidden();
    for (const key of ["1", "."]) await page.keyboard.press(key);
    await expect(row("Loop resistance, pair 1-2")).toBeVisible();
    const field = main.getByTestId(inHand ? "hand-entry" : "entry");
    if (inHand) await expect(field).toHaveText("1.");
    else await expect(field).toHaveValue("1.");
  });

/** Enter in the very moment that a button is there, before anything else is done: no key is of the screen before. */
const enterWith = (page: Page, button: string) =>
  page.evaluate((name) => {
    new MutationObserver((_, observer) => {
      const there = [...document.querySelectorAll("main button")].some((b) =>
        b.textContent.startsWith(name),
      );
      if (!there) return;
      observer.disconnect();
      document.body.dispatchEvent(
        new KeyboardEvent("keydown", {
          key: "Enter",
          bubbles: true,
          cancelable: true,
        }),
      );
    }).observe(document.body, { subtree: true, childList: true });
  }, button);

/** Whether the keys act on nothing. */
const nowhere = (page: Page) =>
  page.evaluate(() => document.activeElement === document.body);

import { expect } from "@playwright/test";
import { nothingModerate, open, overflow, smallTargets, test } from "./site";

// Somebody walks before a camera; its clip can be on the disk a quarter of a minute later, and is waited for as the application waits.
test.setTimeout(180_000);

test("a recorder is asked and put right, and a channel is proven before a restart and refused after it", async ({
  browser,
}) => {
  const page = await open(browser, { width: 1280, height: 800 });
  await page.getByRole("link", { name: /^Recording/ }).click();
  const channel = (n: number) =>
    page.getByRole("button", { name: new RegExp(`^Channel ${n},`) });
  const aside = page.getByRole("complementary");

  // Nobody has asked it: nothing is said to be as planned.
  await expect(page.getByText("Nobody has asked it yet.")).toBeVisible();
  await expect(aside.getByText("not told").first()).toBeVisible();

  await page.getByRole("button", { name: "Ask R-1" }).click();
  await expect(page.getByText("R-1 told of 33 channels.")).toBeVisible();
  await expect(page.getByText("The disk in bay 4 is failing.")).toBeVisible();
  await channel(8).click();
  await expect(
    aside.getByText("VL-03 is here, planned on channel 9."),
  ).toBeVisible();

  // One writing, looked at before and read back after; half a ring is refused.
  await page.getByRole("button", { name: "Put 6 channels right" }).click();
  await page.getByRole("checkbox").first().uncheck();
  await page.getByRole("button", { name: "Write it to R-1" }).click();
  await expect(
    page.getByText("choose all of a ring, or none", { exact: false }),
  ).toBeVisible();
  await page.getByRole("button", { name: "Put 6 channels right" }).click();
  await page.getByRole("button", { name: "Write it to R-1" }).click();
  await expect(
    page.getByText("6 channels of R-1 are as they were set"),
  ).toBeVisible();
  await expect(aside.getByText("As planned.", { exact: false })).toBeVisible();

  // An event, its clip, and the picture to show for it.
  const prove = async (found: RegExp) => {
    await channel(13).click();
    await aside.getByRole("button", { name: "Walked by" }).click();
    await expect(page.getByText(/^Noted at/)).toBeVisible();
    await page.getByRole("button", { name: "Have the clip sent" }).click();
    await expect(page.getByText(found)).toBeVisible({ timeout: 60_000 });
  };
  await prove(/^1 of 1 found/);
  await expect(
    aside.getByRole("img", { name: /^From the clip of channel 13/ }),
  ).toBeVisible();
  await nothingModerate(page, "Recording, proven");

  // Started again, it comes back with what it was made with.
  await page.getByRole("button", { name: "Made-up world" }).click();
  await page.getByRole("button", { name: "Start R-1 again" }).click();
  await page.getByRole("button", { name: "Close" }).first().click();
  await expect
    .poll(
      async () => {
        await page.getByRole("button", { name: "Ask R-1" }).click();
        await expect(
          page.getByRole("button", { name: "Ask R-1" }),
        ).toBeEnabled();
        return page.getByText("R-1 told of 33 channels.").isVisible();
      },
      { timeout: 30_000 },
    )
    .toBe(true);
  await prove(/^0 of 1 found, 1 not/);
  await expect(
    aside.getByText("Recorded until the restart, not since", { exact: false }),
  ).toBeVisible();
  await expect(
    aside.getByText("It waits for an alarm", { exact: false }),
  ).toBeVisible();

  // What it showed becomes readings once a person has looked at them.
  await page.getByRole("button", { name: "Take over to Cards" }).click();
  await expect(page.getByText("Clip after a restart").first()).toBeVisible();

  // In the hand: one camera after another.
  await page.setViewportSize({ width: 390, height: 844 });
  await expect.poll(() => overflow(page)).toBeLessThanOrEqual(0);
  expect(await smallTargets(page)).toEqual([]);
  await aside.getByRole("button", { name: "Next: VL-08" }).click();
  await expect(aside.getByRole("heading", { name: /VL-08/ })).toBeInViewport();
});

import { expect } from "@playwright/test";
import {
  nothingModerate,
  open,
  openStop,
  overflow,
  smallTargets,
  test,
} from "./site";

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
    await expect(page.getByText(found)).toBeVisible({ timeout: 90_000 });
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
      { timeout: 90_000 },
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

test("zones are drawn on the picture by mouse and keys, judged as they move, and walked through", async ({
  browser,
}) => {
  const page = await open(browser, { width: 1280, height: 800 });
  await openStop(page, "FB-01");
  await page.waitForURL(/card\/[0-9a-f-]{36}/);
  const id = /card\/([0-9a-f-]{36})/.exec(page.url())![1];
  const { card } = await (await page.request.get(`/api/cards/${id}`)).json();
  const rowOf = (check: string): string =>
    card.rows.find((r: { key: { check: string } }) => r.key.check === check).id;
  const [row, walk] = [rowOf("recorder.zones"), rowOf("recorder.zone-walk")];
  await page.goto(`/card/${id}?row=${encodeURIComponent(row)}`);
  await page.getByText("Detection zones").first().waitFor();
  await page.keyboard.press("Enter");
  const strip = page.getByRole("group", { name: "Detection zones" });

  // A zone alone says nothing of whose ground it is on.
  await strip.getByRole("button", { name: "rings", exact: true }).click();
  await expect(
    strip.getByText("Nobody has drawn the own ground", { exact: false }),
  ).toBeVisible();
  await strip.getByRole("button", { name: "own ground", exact: true }).click();
  await expect(
    strip.getByText("Zones that ring: 1", { exact: false }),
  ).toBeVisible();
  await expect(strip.getByText(/^in$/).first()).toBeVisible();

  // Dragged beyond the ground it is out, and by how much; by keys it comes back.
  await strip.getByRole("textbox", { name: "Name of zone 1" }).focus();
  const corner = (n: number) =>
    strip.getByRole("button", { name: new RegExp(`^Corner ${n} of Zone`) });
  const frame = (await strip
    .getByRole("group", { name: "Zones on the picture" })
    .boundingBox())!;
  const grip = (await corner(1).boundingBox())!;
  await page.mouse.move(grip.x + grip.width / 2, grip.y + grip.height / 2);
  await page.mouse.down();
  await page.mouse.move(
    frame.x + frame.width * 0.3,
    frame.y + frame.height * 0.1,
    { steps: 4 },
  );
  await page.mouse.up();
  await expect(
    strip.getByText("Zone reaches beyond the own ground", { exact: false }),
  ).toBeVisible();
  await corner(1).focus();
  for (let i = 0; i < 42; i++) await page.keyboard.press("ArrowDown");
  await expect(
    strip.getByText("Zone reaches beyond", { exact: false }),
  ).toBeHidden();
  await page.keyboard.press("+");
  await expect(corner(5)).toBeVisible();
  await page.keyboard.press("Delete");
  await expect(corner(5)).toBeHidden();
  await nothingModerate(page, "zones being drawn");
  await strip.getByRole("button", { name: "Save", exact: false }).click();
  await expect(page.getByText("2 zones").first()).toBeVisible();

  // Six walks inside and six outside show what the limit asks.
  await page.goto(`/card/${id}?row=${encodeURIComponent(walk)}`);
  await page.getByText("Zones walked").first().waitFor();
  await page.keyboard.press("Enter");
  const walked = page.getByRole("group", { name: "Zones walked" });
  for (let i = 0; i < 6; i++) {
    await walked.getByRole("button", { name: /^inside, rang/ }).click();
    await walked.getByRole("button", { name: /^outside, silent/ }).click();
  }
  await expect(
    walked.getByText("Inside 6 of 6 rang: 61 to 100 %", { exact: false }),
  ).toBeVisible();
  await walked.getByRole("button", { name: "Save", exact: false }).click();
  await expect(page.getByText("Zones walked").first()).toBeVisible();
});

import { expect, type Page } from "@playwright/test";
import {
  nothingModerate,
  open,
  openStop,
  overflow,
  smallTargets,
  test,
} from "./site";

const tiltField = (page: Page) =>
  page.locator("input").and(page.getByLabel("Tilt, down from level"));

test("a view is planned with keys and by hand, agreed, and then expected on the Card", async ({
  browser,
}) => {
  const page = await open(browser, { width: 1280, height: 800 });
  await openStop(page, "CC-07");
  const id = /card\/([0-9a-f-]+)/.exec(page.url())![1];
  await page.goto(`/views/${id}`);
  await expect(page.getByText("View not planned")).toBeVisible();

  // What it must show; what is missing is said, with what would mend it.
  await page.getByRole("button", { name: "Add a target" }).click();
  await page.getByLabel("Distance, m").fill("20");
  await expect(page.getByText(/a field of .* would do/)).toBeVisible();
  await page.getByLabel("Horizontal field").fill("60");
  await expect(page.getByText(/a field of .* would do/)).toBeHidden();

  // The tilt by its handle, with keys and by hand; the number follows, and the other way round.
  const handle = page.getByRole("slider", { name: "Tilt, down from level" });
  await handle.focus();
  await page.keyboard.press("Shift+ArrowDown");
  await expect(tiltField(page)).toHaveValue("26");
  const grip = (await handle.locator("circle").last().boundingBox())!;
  await page.mouse.move(grip.x + 6, grip.y + 6);
  await page.mouse.down();
  await page.mouse.move(grip.x + 60, grip.y - 20, { steps: 4 });
  await page.mouse.up();
  expect(Number(await tiltField(page).inputValue())).toBeLessThan(25);
  await tiltField(page).fill("24");
  await expect(handle).toHaveAttribute("aria-valuenow", "24");

  // The days on which the sun is in the picture, once it is said where it looks.
  await page.getByLabel("Looks to, from north").fill("249");
  await expect(
    page.getByText("The sun is never in this picture."),
  ).toBeVisible();
  await tiltField(page).fill("12");
  await expect(page.getByText(/days a year/)).toBeVisible();
  await tiltField(page).fill("24");
  await nothingModerate(page, "views");
  await expect.poll(() => overflow(page)).toBeLessThanOrEqual(0);

  // What is sharp is worked out once all of the lens is said; the levels by either edition.
  await page.getByRole("button", { name: /Say how the lens is set/ }).click();
  await page.getByLabel("Focal length, mm").fill("8");
  await page.getByLabel("Stop, f/").fill("1.6");
  await page.getByLabel("Focused at, m").fill("10");
  await expect(page.getByText("5.7 to 39.9 m")).toBeHidden();
  await page.getByLabel("Pixel, µm").fill("3");
  await expect(page.getByText("5.7 to 39.9 m")).toBeVisible();
  await page.getByLabel("Whose levels of detail").selectOption("edition2025");
  await expect(page.getByText("outline").first()).toBeVisible();

  // What was not kept is asked for before it is left.
  await page.getByRole("link", { name: "To the Card" }).click();
  await page.getByRole("button", { name: "Go on" }).click();

  await page.getByRole("button", { name: "Agree this view" }).click();
  await page.getByLabel("Agreed by, name").fill("Odile Farrow");
  await page.getByRole("button", { name: "Agree", exact: true }).click();
  await expect(page.getByText(/Agreed by Odile Farrow/)).toBeVisible();
  await page.getByRole("link", { name: "To the Card" }).click();
  await expect(page).toHaveURL(new RegExp(`card/${id}`));
  const card = (await (await page.request.get(`/api/cards/${id}`)).json()) as {
    card: {
      rows: {
        key: { check: string };
        expected: { value: { value: number } | null } | null;
      }[];
    };
  };
  expect(
    card.card.rows.find((r) => r.key.check === "fixing.tilt")?.expected?.value
      ?.value,
  ).toBe(24);
});

test("each head has its view, also in the hand and without a network", async ({
  browser,
}) => {
  const page = await open(browser, { width: 390, height: 844 });
  await openStop(page, "CC-04");
  const id = /card\/([0-9a-f-]+)/.exec(page.url())![1];
  await page.goto(`/views/${id}`);
  await page.getByRole("button", { name: "Head 3" }).click();
  await expect(page.getByRole("button", { name: "Head 3" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await expect.poll(() => overflow(page)).toBeLessThanOrEqual(0);
  expect(await smallTargets(page)).toEqual([]);
  await tiltField(page).fill("33");
  await page.getByRole("button", { name: "Add a target" }).click();

  // What somebody else keeps meanwhile takes nothing from who is at work.
  const read = async <T>(path: string) =>
    (await (await page.request.get(path)).json()) as T;
  const { heads } = await read<{
    heads: { id: string; number: number; begin: object }[];
  }>(`/api/cards/${id}/views`);
  const [job] = await read<{ id: string }[]>("/api/jobs");
  const { people } = await read<{ people: { id: string; name: string }[] }>(
    `/api/jobs/${job.id}/kit`,
  );
  const third = heads.find((h) => h.number === 3)!;
  const theirs = await page.request.post(`/api/cards/${id}/views`, {
    data: {
      id: crypto.randomUUID(),
      headId: third.id,
      design: { ...third.begin, tiltDeg: 40 },
      by: people.find((p) => p.name === "Marek Dune")!.id,
      takenAt: new Date().toISOString(),
      clockOffsetMs: 0,
    },
  });
  expect(theirs.status()).toBe(200);
  await expect(page.getByText(/Somebody kept another plan/)).toBeVisible();
  await expect(tiltField(page)).toHaveValue("33");

  await page.context().setOffline(true);
  await page.getByRole("button", { name: "Keep as planned" }).click();
  await expect(page.getByText("Kept.")).toBeVisible();
  await page.context().setOffline(false);
  await expect
    .poll(async () => {
      const views = (await (
        await page.request.get(`/api/cards/${id}/views`)
      ).json()) as {
        heads: { number: number; begin: { tiltDeg: number }; kept: number }[];
      };
      return views.heads
        .filter((h) => h.kept > 0)
        .map((h) => [h.number, h.begin.tiltDeg]);
    })
    .toEqual([[3, 33]]);
});

test("ground of the whole site is told seen or not, and a wall that is drawn hides it", async ({
  browser,
}) => {
  const page = await open(browser, { width: 1280, height: 800 });
  const id = /job\/([0-9a-f-]+)/.exec(page.url())![1];
  // One view is agreed: CC-08, over the quay to the south.
  await openStop(page, "CC-08");
  const card = /card\/([0-9a-f-]+)/.exec(page.url())![1];
  await page.goto(`/views/${card}`);
  await page.getByLabel("Looks to, from north").fill("180");
  await page.getByRole("button", { name: "Keep as planned" }).click();
  await page.goto("/");
  await page.getByRole("link", { name: "What the views cover" }).click();
  const grounds = page.getByRole("region", {
    name: "Ground that must be seen",
  });
  const quay = grounds.getByRole("listitem").filter({ hasText: "Quay edge" });
  await expect(quay).toContainText(/% seen/);
  const seen = async () =>
    Number(/([\d.]+) % seen/.exec(await quay.innerText())![1]);
  await expect.poll(seen).toBeGreaterThan(5);
  const was = await seen();
  await nothingModerate(page);

  // A wall along the quay, typed: two numbers a line, and what is none says so.
  await page.getByRole("button", { name: "Draw a wall" }).click();
  const corners = page.getByLabel(/^Corners/);
  await corners.fill("100 92\nover there");
  await expect(page.getByText(/Two numbers a line/)).toBeVisible();
  await corners.fill("60 92\n190 92");
  await nothingModerate(page);
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect.poll(seen).toBeLessThan(was);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect.poll(seen).toBe(was);

  // Ground is pressed on the plan, corner by corner, and taken out again.
  await page.getByRole("button", { name: "Draw ground" }).click();
  await page.getByLabel("What it is called").fill("Slipway");
  const plan = (await page.getByRole("application").boundingBox())!;
  for (const [x, y] of [
    [0.4, 0.4],
    [0.5, 0.4],
    [0.5, 0.5],
  ])
    await page.mouse.click(plan.x + plan.width * x, plan.y + plan.height * y);
  await expect(corners).toHaveValue(
    /^(-?[\d.]+ -?[\d.]+\n){2}-?[\d.]+ -?[\d.]+$/,
  );
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(grounds.getByText("Slipway")).toBeVisible();
  await grounds.getByRole("button", { name: "Take out Slipway" }).click();
  await expect(grounds.getByText("Slipway")).toHaveCount(0);
  expect(
    (await (await page.request.get(`/api/jobs/${id}/coverage`)).json()).ground
      .grounds,
  ).toHaveLength(5);

  // Somebody else draws meanwhile: nothing of either is lost without a word.
  await page.getByRole("button", { name: "Draw a wall" }).click();
  await corners.fill("100 92\n110 92");
  // He has not heard of it yet: what comes live to his page is held back.
  let hear = () => {};
  const heard = new Promise<void>((go) => (hear = go));
  await page.route("**/coverage?*", async (route) => {
    await heard;
    await route.continue();
  });
  const mine = await (
    await page.request.get(`/api/jobs/${id}/coverage`)
  ).json();
  const theirs = await page.request.put(`/api/jobs/${id}/coverage/ground`, {
    data: { ground: { ...mine.ground, walls: [] }, was: mine.version },
  });
  expect(theirs.ok()).toBe(true);
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(page.getByText(/drawn on this plan meanwhile/)).toBeVisible();
  await expect(corners).toHaveValue("100 92\n110 92");
  // What the other drew is read before it can be kept beside that.
  await expect(page.getByRole("button", { name: "Keep it" })).toBeDisabled();
  hear();
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(page.getByText("Walls, 1")).toBeVisible();

  const phone = await open(browser, { width: 390, height: 844 });
  await phone.goto("/coverage");
  await expect(phone.getByText("Quay edge").first()).toBeVisible();
  await expect.poll(() => overflow(phone)).toBeLessThanOrEqual(0);
  expect(await smallTargets(phone)).toEqual([]);
  await nothingModerate(phone);
});

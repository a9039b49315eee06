import { expect } from "@playwright/test";
import { nothingModerate, open, overflow, test } from "./site";

test("what the channels show is looked at, and a Card is told", async ({
  browser,
}) => {
  const page = await open(browser, { width: 1280, height: 800 });
  const main = page.getByRole("main");
  await page.getByRole("link", { name: "Recording" }).click();
  await main.getByRole("radio", { name: "CR-03" }).click();
  await main.getByRole("link", { name: "What they show" }).click();
  await expect(main.getByText(/Nobody has looked yet/)).toBeVisible();
  await nothingModerate(page);

  // One of its views is agreed: through its own picture, under Aim.
  const board = page.url();
  const job = new URL(board).pathname.split("/")[2]!;
  const walk = (await (
    await page.request.get(`/api/jobs/${job}/walk`)
  ).json()) as { areas: { stops: { id: string; label: string }[] }[] };
  const stops = walk.areas.flatMap((a) => a.stops);
  await main.getByRole("button", { name: "Look at all channels" }).click();
  await expect(page.getByTestId("identity-counts")).toContainText(
    "cannot tell",
  );
  await expect(
    main.getByText(/never agreed with a picture/).first(),
  ).toBeVisible();
  const first = await main
    .getByRole("button", { pressed: true })
    .first()
    .innerText();
  const label = /[A-Z]{2}-\d{2}/.exec(first)![0];
  const device = stops.find((s) => s.label === label)!.id;
  await main.getByRole("link", { name: `Aim ${label}` }).click();
  const shown = await page.request.get(
    `/api/demo/views/${encodeURIComponent(label)}`,
  );
  expect(shown.ok()).toBeTruthy();
  const picture = await page.request.get(
    `/api/jobs/${job}/recorders/${board.split("/").pop()}/views/picture.jpg?look=1&channel=${/\d+/.exec(first)![0]}`,
  );
  await page.getByTestId("aim-file").setInputFiles({
    name: "now.jpg",
    mimeType: "image/jpeg",
    buffer: await picture.body(),
  });
  await main.getByRole("button", { name: "This is the agreed view" }).click();
  const sheet = page.getByRole("dialog");
  await sheet.getByLabel("Who agrees").fill("Odile Farrow");
  await sheet.getByRole("button", { name: "Agree", exact: true }).click();
  await expect(main.getByText(/What comes next is held/)).toBeVisible();

  // Looked at again, it shows what it says, and the Card has it.
  await page.goto(board);
  await main.getByRole("button", { name: "Look again" }).click();
  await expect(page.getByTestId("identity-counts")).toContainText(
    "show what they say",
  );
  await nothingModerate(page);
  await main.getByRole("button", { name: "Tell 1 Card" }).click();
  await expect(main.getByText("1 Card told.")).toBeVisible();
  await page.setViewportSize({ width: 390, height: 844 });
  await expect.poll(() => overflow(page)).toBeLessThanOrEqual(0);
  await nothingModerate(page);
  await page.goto(`/card/${device}`);
  await expect(page.getByRole("main")).toBeVisible();
});

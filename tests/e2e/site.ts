import AxeBuilder from "@axe-core/playwright";
import {
  expect,
  test as base,
  type Browser,
  type BrowserContext,
  type Page,
} from "@playwright/test";
import { portOf } from "./lines";

/** A journey on the server of its own line. */
export const test = base.extend({
  baseURL: async ({}, use, info) =>
    use(`http://localhost:${portOf(info.parallelIndex)}`),
});

const ownerOf = new WeakMap<BrowserContext, string>();

/** Pages of journeys that are over would go on listening, and ask for everything anew at each change. */
async function closeOthers(browser: Browser) {
  const mine = test.info().testId;
  for (const context of browser.contexts())
    if (ownerOf.get(context) !== mine) await context.close();
}

/** A browser of somebody's own: who and with what is chosen, as it is once on a real device. */
export async function open(
  browser: Browser,
  size: { width: number; height: number },
  person = "Ina Solberg",
  instrument = "Camera tester 1",
): Promise<Page> {
  await closeOthers(browser);
  const context = await browser.newContext({
    viewport: size,
    acceptDownloads: true,
  });
  ownerOf.set(context, test.info().testId);
  const page = await context.newPage();
  // By the site's own address: another journey may have begun another job.
  const jobs = (await (await context.request.get("/api/jobs")).json()) as {
    id: string;
    simulated: boolean;
  }[];
  await page.goto(`/job/${jobs.find((j) => j.simulated)!.id}`);
  await page.getByRole("radio", { name: person }).click();
  await page.getByRole("radio", { name: instrument }).click();
  await page.getByRole("button", { name: "Done" }).click();
  await expect(page.getByRole("dialog")).toHaveCount(0);
  return page;
}

export async function openStop(page: Page, label: string) {
  await page.goto("/");
  await page.getByRole("searchbox", { name: "Find a Stop" }).fill(label);
  await page.getByRole("link", { name: new RegExp(`^${label},`) }).click();
  // The line of Stops has its label too: its Card is there once that has a head of its own.
  await page.waitForURL(/\/card\//);
  await expect(page.locator("h1").first()).toBeAttached();
  await expect(page.getByText(label).first()).toBeVisible();
}

/** A closed row of the Card, by the beginning of its accessible name. */
export const row = (page: Page, name: string) =>
  page
    .getByRole("main")
    .getByRole("button", { name: new RegExp(`^${name},`) })
    .first();

/** Nothing is wider than the window: what is, is scrolled in a box of its own. */
export const overflow = (page: Page) =>
  page.evaluate(() => document.documentElement.scrollWidth - innerWidth);

/** Nothing moderate or worse may stand in anybody's way on this page. */
export async function nothingModerate(page: Page, where = "") {
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(
    violations
      .filter((v) => v.impact !== "minor")
      .map((v) => `${where} ${v.id}: ${v.nodes[0]?.html}`),
  ).toEqual([]);
}

/** Nothing serious may stand in anybody's way on this page. */
export async function axe(page: Page) {
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(
    violations
      .filter((v) => v.impact === "serious" || v.impact === "critical")
      .map((v) => `${v.id}: ${v.nodes[0]?.html}`),
  ).toEqual([]);
}

/**
 * What is too small for a glove, or for its own words: targets under 44 px, but a link within a sentence and what is under a label of its own
 * that is not; and what its words run out of.
 */
export const smallTargets = (page: Page) =>
  page
    .locator(
      "button:visible, a:visible, input:visible, select:visible, textarea:visible, [role=radio]:visible",
    )
    .evaluateAll((all) =>
      all
        .filter((e) => !e.closest("p"))
        .map((e) => {
          const label = (e as HTMLInputElement).labels?.[0];
          const box = e.getBoundingClientRect();
          return {
            name: (e.ariaLabel ?? e.textContent ?? "").trim().slice(0, 30),
            // What only a screen reader meets, such as a file field under its label.
            hidden: box.width <= 1,
            spilled:
              e.tagName === "BUTTON" && e.scrollWidth > e.clientWidth + 1,
            box:
              label && /^(checkbox|radio)$/.test((e as HTMLInputElement).type)
                ? label.getBoundingClientRect()
                : box,
          };
        })
        .filter(
          ({ hidden, spilled, box }) =>
            !hidden && (spilled || box.height < 43.5 || box.width < 43.5),
        )
        .map(
          ({ name, box }) =>
            `${name} ${Math.round(box.width)}x${Math.round(box.height)}`,
        ),
    );

/** The simulated job, the only one of the journeys with stand-ins. */
const simulatedJob = async (page: Page) =>
  (
    (await (await page.request.get("/api/jobs")).json()) as {
      id: string;
      simulated: boolean;
    }[]
  ).find((j) => j.simulated)!;

/** Says from when somebody or something is on site; null: it is not, as the journeys find it. */
export async function onSite(
  page: Page,
  presence: string,
  from: Date | null,
): Promise<void> {
  const job = await simulatedJob(page);
  const said = await page.request.post(`/api/jobs/${job.id}/site/presences`, {
    data: { presence, from },
  });
  expect(said.ok(), await said.text()).toBe(true);
}

/** The site lies where it is deep night, at whatever hour the journey runs; back to where it was. */
export async function alwaysNight(page: Page): Promise<() => Promise<unknown>> {
  const job = await simulatedJob(page);
  const at = `/api/jobs/${job.id}/site`;
  const was = (await (await page.request.get(at)).json()) as {
    latitudeDeg: number | null;
    longitudeDeg: number | null;
  };
  const put = (latitudeDeg: number | null, longitudeDeg: number | null) =>
    page.request.put(`${at}/place`, { data: { latitudeDeg, longitudeDeg } });
  const now = new Date();
  const east = -15 * (now.getUTCHours() + now.getUTCMinutes() / 60);
  const said = await put(0, east <= -180 ? east + 360 : east);
  expect(said.ok(), await said.text()).toBe(true);
  return () => put(was.latitudeDeg, was.longitudeDeg);
}

/** The simulated job, and the way to say what it covers. */
export async function covering(page: Page) {
  const job = await simulatedJob(page);
  const kit = (await (
    await page.request.get(`/api/jobs/${job.id}/kit`)
  ).json()) as { people: { id: string; name: string }[] };
  const { settings } = (await (
    await page.request.get(`/api/jobs/${job.id}/practice`)
  ).json()) as { settings: object };
  return (scope: object | null) =>
    page.request.post(`/api/jobs/${job.id}/practice`, {
      data: {
        settings: { ...settings, scope },
        why: "the roof is ours too",
        by: kit.people.find((p) => p.name === "Ina Solberg")!.id,
      },
    });
}

/** All parts of the work, for a job that covers everything. */
export const WHOLE = [
  ...["before", "bench", "cable", "fixing", "power", "link", "address"],
  ...["time", "recorder", "aim", "focus", "night", "plates", "finish"],
];

/** Opens a page of a camera (aim or focus) and looks through it by the login that the demo knows; its place. */
export async function lookThrough(page: Page, kind: string, label: string) {
  const main = page.getByRole("main");
  const sheet = page.getByRole("dialog");
  const walk = (await (
    await page.request.get(
      `/api/jobs/${new URL(page.url()).pathname.split("/")[2]}/walk`,
    )
  ).json()) as { areas: { stops: { id: string; label: string }[] }[] };
  const device = walk.areas
    .flatMap((a) => a.stops)
    .find((s) => s.label === label)!.id;
  await page.goto(`/${kind}/${device}`);
  await expect(main.getByRole("heading", { name: label })).toBeVisible();
  await nothingModerate(page);
  // It gives pictures only to who logs in.
  await main.getByRole("button", { name: "Look through the camera" }).click();
  await sheet.getByRole("button", { name: "Login of the demo" }).click();
  await expect(sheet.getByLabel("User")).toHaveValue("site");
  await nothingModerate(page);
  await sheet.getByRole("button", { name: "Log in and look" }).click();
  await expect(page.getByTestId(`${kind}-picture`)).toBeVisible({
    timeout: 90_000,
  });
  return device;
}

/** Until the page shows a picture that was taken after now: what the server has is newer than what the page shows, and the one on its
 * way to the server may be older. */
export async function anew(page: Page, kind: string) {
  const asks = await page.waitForRequest((r) => r.url().includes("/live?"));
  const said = await page.request.post(
    asks.url().replace(/after=\d+/, "after=0"),
  );
  const { number } = (await said.json()) as { number: number };
  await expect
    .poll(async () =>
      Number(
        await page.getByTestId(`${kind}-picture`).getAttribute("data-number"),
      ),
    )
    .toBeGreaterThan(number + 1);
}

/** A hand does something in the made-up world, and it is done when this is over. */
export async function byHand(page: Page, press: () => Promise<unknown>) {
  const done = page.waitForResponse(
    (r) =>
      r.url().includes("/api/demo/views/") && r.request().method() === "POST",
  );
  await press();
  expect((await done).ok()).toBe(true);
}

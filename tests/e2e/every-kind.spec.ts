import { expect, type Locator, type Page } from "@playwright/test";
import {
  checkOf,
  escaped,
  good,
  textOf,
  type Card,
  type Check,
  type Value,
} from "./good";
import { alwaysNight, covering, onSite, open, test, WHOLE } from "./site";

/**
 * Each kind of device goes from Open to its Verdict through the page that is open: all of the work, typed by hand as on a site where nothing
 * answers. All of them take half an hour, so that they run by themselves: `./walkdown kinds`.
 */
test.skip(!process.env.WALKDOWN_KINDS, "asked for by itself");
test.setTimeout(1_500_000);
test.use({ actionTimeout: 10_000 });

/** Where each stands on the site; first what others wait for. */
const kinds: [kind: string, stop: string, hand?: boolean][] = [
  ["recorder", "R-1"],
  ["recorder", "R-2"],
  ["switch", "CR-01"],
  ["router", "CR-02"],
  ["cloud-bridge", "CR-04"],
  ["access-point", "OP-05", true],
  ["bridge", "OP-03"],
  ["radio-recorder", "CR-03"],
  ["injector", "OP-08", true],
  ["splitter", "OP-09"],
  ["supply", "OP-04"],
  ["adapter-pair", "CC-17", true],
  ["light-ring", "OP-07", true],
  ["dome-fixed", "CC-02"],
  ["dome-varifocal", "CC-03", true],
  ["dome-rings", "CC-16"],
  ["tile-dome", "CC-15", true],
  ["ball", "CC-12"],
  ["multi-head", "CC-04"],
  ["bullet", "VL-02", true],
  ["pigtail-camera", "VL-11"],
  ["light-horn", "GT-07", true],
  ["thermal", "FB-01"],
  ["pan-tilt-zoom", "VL-10"],
  ["number-plate", "GT-05"],
  ["coax-camera", "OP-01"],
  ["radio-camera", "OP-02", true],
];
const wanted = process.env.WALKDOWN_KINDS?.split(",") ?? [];
const day = 86_400_000;

for (const [kind, stop, hand = false] of kinds)
  if (wanted.includes("all") || wanted.includes(kind) || wanted.includes(stop))
    test(`all of the work at ${stop}, a ${kind}, ${hand ? "in the hand" : "on the desk"}`, async ({
      browser,
    }) => {
      const page = await open(
        browser,
        hand ? { width: 390, height: 844 } : { width: 1280, height: 800 },
      );
      const put = await covering(page);
      expect((await put({ parts: WHOLE, byKind: {} })).ok()).toBe(true);
      const began = new Date(Date.now() - 3 * day);
      const back = await alwaysNight(page);
      try {
        for (const presence of ["permanent-power", "second-person"])
          await onSite(page, presence, began);
        const device = await placeOf(page, stop);
        await page.goto(`/card/${device}`);
        await expect(page.getByText(stop).first()).toBeVisible();
        const rows = await walk(page, device, hand);
        const verdict = page.getByTestId("verdict");
        await expect(verdict).toHaveText(/^Accepted/);
        console.log(
          `${kind}: ${rows.length} rows, ${await verdict.innerText()}`,
        );
      } finally {
        await back();
      }
    });

async function placeOf(page: Page, label: string) {
  const job = new URL(page.url()).pathname.split("/")[2];
  const walk = (await (
    await page.request.get(`/api/jobs/${job}/walk`)
  ).json()) as { areas: { stops: { id: string; label: string }[] }[] };
  return walk.areas.flatMap((a) => a.stops).find((s) => s.label === label)!.id;
}

/** Row by row as the Card asks for it, until it asks for nothing more. */
async function walk(page: Page, device: string, hand: boolean) {
  const get = async <T>(path: string) =>
    (await (await page.request.get(`/api${path}`)).json()) as T;
  const now = async () => (await get<{ card: Card }>(`/cards/${device}`)).card;
  const { checks } = await get<{ checks: Check[] }>("/catalogue/definitions");
  const main = page.getByRole("main");
  const onward = main.getByRole("button", { name: /^Save and next/ });
  const strip = hand
    ? main
    : main.getByRole("group").filter({
        has: page.getByRole("button", { name: /^Save and next/ }),
      });
  // In the hand what it is of, such as a pair or the infrared, stands below the name.
  const inHand = () =>
    page.evaluate(() => {
      const head = document.querySelector("main h1");
      const below = head?.parentElement?.nextElementSibling?.textContent ?? "";
      return head && `${head.textContent!.trim()}, ${below.trim()}`;
    });
  const labelled = async () =>
    hand
      ? inHand()
      : (await onward.count()) > 0
        ? strip.first().getAttribute("aria-label")
        : null;
  const done: string[] = [];
  let before: string | null = null;
  for (let card = await now(); card.nextRow; card = await now()) {
    const next = card.rows.find((r) => r.id === card.nextRow)!;
    const name = textOf(`check.${next.key.check}`)!;
    if (!hand && (await onward.count()) === 0) {
      const closed = main
        .getByRole("button", { name: new RegExp(`^${escaped(name)},`) })
        .first();
      if ((await closed.count()) === 0) await unfold(page, name);
      await closed.click();
    }
    await expect
      .poll(async () => (await labelled()) ?? before, {
        message: `${name} opens`,
      })
      .not.toBe(before);
    const label = (before = await labelled())!;
    const check = checkOf(checks, label)!;
    expect(check, label).toBeDefined();
    const own = (of: Card) => of.rows.filter((r) => r.key.check === check.id);
    const row =
      own(card).find((r) => r.id === next.id) ??
      own(card).find((r) => r.state !== "in") ??
      own(card)[0];
    const attempts = (of: Card) =>
      own(of).reduce((sum, r) => sum + r.attempts.length, 0);
    const value = await good(page, device, check, row);
    expect(value, `an answer that is in: ${label}`).not.toBeNull();
    await enter(page, strip.first(), check, row, value!, hand);
    if (check.picture)
      await main
        .getByTestId("take-picture")
        .last()
        .setInputFiles({
          name: "seen.png",
          mimeType: "image/png",
          buffer: Buffer.from(pixel, "base64"),
        });
    await expect(onward.first(), label).toBeEnabled();
    // What cures was sealed two days ago, where there was no network.
    const isEarlier = check.id === "fixing.seals";
    if (isEarlier) {
      await page.context().setOffline(true);
      await page.clock.setFixedTime(new Date(Date.now() - 2 * day));
    }
    await onward.first().click();
    if (isEarlier) {
      await expect(page.getByText(/not sent/).first()).toBeVisible();
      await page.clock.resume();
      await page.clock.setSystemTime(new Date());
      await page.context().setOffline(false);
    }
    // What it makes void may be more than it adds: what is on record of the Check itself says that it was kept.
    await expect
      .poll(async () => attempts(await now()), { message: label })
      .toBeGreaterThan(attempts(card));
    done.push(label);
    if (process.env.WALKDOWN_KINDS_SHOW) {
      const kept = own(await now()).find((r) => r.id === row.id)!;
      console.log(
        `  ${label}: ${kept.state} ${kept.state === "in" ? "" : JSON.stringify(kept.because)}`,
      );
    }
  }
  // What an instrument, or too few passes, leave too close is a note of the Verdict.
  const left = (await now()).rows.filter(
    (r) => r.required && !["in", "tooClose"].includes(r.state),
  );
  expect(left.map((r) => `${r.id} ${r.state}`)).toEqual([]);
  return done;
}

/** A section that is folded is opened until the row stands there. */
async function unfold(page: Page, name: string) {
  const main = page.getByRole("main");
  for (const section of await main.locator("[aria-expanded=false]").all()) {
    await section.click();
    const row = main.getByRole("button", {
      name: new RegExp(`^${escaped(name)},`),
    });
    if ((await row.count()) > 0) return;
  }
}

const pixel =
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==";

/** Says it as somebody with a finger would. */
async function enter(
  page: Page,
  strip: Locator,
  check: Check,
  row: Card["rows"][number],
  value: Value,
  hand: boolean,
) {
  const main = page.getByRole("main");
  const radio = (word: string, within: Locator = strip) =>
    within
      .getByRole("radio", { name: new RegExp(`^${escaped(word)}`) })
      .first()
      .click();
  const press = (name: string) =>
    main.getByRole("button", { name, exact: true }).first().click();
  switch (value.kind) {
    case "yesNo":
      return radio("yes");
    case "choice":
      if (check.entry === "light")
        return strip
          .getByRole("radio")
          .nth(row.lights.findIndex((l) => l.id === value.choice))
          .click();
      return radio(
        textOf(`choice.${check.id}.${value.choice}`) ??
          textOf(`choice.${value.choice}`) ??
          value.choice,
      );
    case "list":
      if (check.confirmEach)
        for (const box of await strip.getByRole("checkbox").all())
          await box.check();
      else await press(textOf(`list.none.${check.id}`) ?? textOf("list.none")!);
      return;
    case "items":
      return press(textOf("items.all-fitted")!);
    case "number":
      if (!hand) return main.getByTestId("entry").fill(String(value.value));
      for (const digit of String(value.value)) await press(digit);
      return;
    case "text":
      return main
        .getByLabel(textOf(`check.${check.id}`)!, { exact: true })
        .last()
        .fill(value.text);
    case "probes":
      await main.getByLabel(textOf("probes.sent")!).fill("4000");
      return main.getByLabel(textOf("probes.received")!).fill("4000");
    case "wireMap": {
      if (hand) {
        for (let pin = 1; pin <= 8; pin++) await press(String(pin));
        return;
      }
      const pins = main
        .getByRole("group", { name: textOf("card.pins-hint")! })
        .getByRole("textbox");
      for (const [i, pin] of (await pins.all()).entries())
        await pin.fill(String(i + 1));
      return;
    }
    case "week":
      return press(textOf("week.whole")!);
    case "zones":
      for (const use of ["ownGround", "watch"])
        await press(textOf(`zone.use.${use}`)!);
      return;
    case "form":
      if (value.lines.length > 1 && check.fields.length === 1) {
        // Each at its time: what is pressed many times in a second is not believed.
        for (const line of value.lines) {
          if (line.at) await page.clock.setFixedTime(new Date(line.at));
          await main
            .getByRole("button", {
              name: new RegExp(
                `^${escaped(textOf(`field.${check.id}.${check.fields[0].id}.${line.said[0].word}`)!)}`,
              ),
            })
            .click();
        }
        await page.clock.resume();
        await page.clock.setSystemTime(new Date());
        return;
      }
      for (const [n, line] of value.lines.entries()) {
        if (n > 0) await press(textOf("form.add")!);
        for (const said of line.said) {
          const text = textOf(`field.${check.id}.${said.field}`)!;
          const field = check.fields.find((f) => f.id === said.field)!;
          if (field.entry === "word")
            await radio(
              textOf(`field.${check.id}.${said.field}.${said.word}`)!,
              main.getByRole("radiogroup", { name: text, exact: true }).nth(n),
            );
          else
            await main
              .getByLabel(new RegExp(`^${escaped(text)}(,|$)`))
              .last()
              .fill(said.word ?? String(said.number));
        }
      }
  }
}

import { readFileSync } from "node:fs";
import { resolve } from "node:path";
import { expect, type Locator, type Page } from "@playwright/test";
import { checkOf, escaped, textOf } from "./good";

interface Field {
  id: string;
  entry: "word" | "text" | "number" | "count";
  words: string[];
  good: { word: string }[];
}
interface Check {
  id: string;
  entry: string;
  judge: string;
  tester: string | null;
  choices: string[];
  good: { word: string }[];
  fields: Field[];
  picture: boolean;
}
interface Row {
  id: string;
  key: { check: string };
  expected: { value: { value: number } | null; word: string | null } | null;
}
interface Answer {
  card: {
    nextRow: string | null;
    taken: number;
    total: number;
    rows: Row[];
    verdict: { verdict: string };
  };
}

/** What plates, lists and plans say: a number or a word for a field, or the word for a row. */
export type Says = Record<string, string | Record<string, string>>;

/** What a reading is seen in, where it demands a picture. */
const picture = readFileSync(
  resolve(import.meta.dirname, "../../docs/screenshots/phone-walk.png"),
);

/** Asks whoever reads a Check: the tester, the switch, or both sides of a link. */
const reads = /Read (tester|switch|both sides)/;

/**
 * Takes a device from Open to its Verdict through the page that is open, row by row as its Card asks: yes, the good word, what the tester
 * reads, what is said here. Counts the presses, keys and taps alike.
 */
export async function accept(page: Page, hand: boolean, says: Says = {}) {
  const deviceId = new URL(page.url()).pathname.split("/").at(-1)!;
  const get = async <T>(path: string) =>
    (await (await page.request.get(`/api${path}`)).json()) as T;
  const cardNow = () => get<Answer>(`/cards/${deviceId}`).then((a) => a.card);
  const { checks } = await get<{ checks: Check[] }>("/catalogue/definitions");
  const main = page.getByRole("main");
  let presses = 0;
  let rows = 0;
  const press = async (what: Locator) => {
    presses++;
    await what.click();
  };
  /** How many more are on record than were. */
  const taken = async (was: number, message: string) => {
    await expect
      .poll(async () => (await cardNow()).taken, { message })
      .toBeGreaterThan(was);
    return (await cardNow()).taken - was;
  };
  const onward = main.getByRole("button", { name: /^Save (and next|all)/ });
  const shown = hand
    ? main.getByRole("heading", { level: 1 })
    : main.getByRole("group").filter({
        has: page.getByRole("button", { name: /^Save (and next|all)/ }),
      });
  let before: string | null = null;
  for (let card = await cardNow(); card.nextRow; card = await cardNow()) {
    // In the hand a Check is always open; on the desk the first is opened, and from then on the next one opens by itself.
    if (!hand && rows === 0) {
      const next = card.rows.find((r) => r.id === card.nextRow)!;
      const name = textOf(`check.${next.key.check}`);
      await press(
        main
          .getByRole("button", { name: new RegExp(`^${escaped(name!)},`) })
          .first(),
      );
    }
    // The Check that was saved leaves before the next is answered; after the last one there is none, once it is on record.
    const labelled = async () =>
      (await shown.count()) === 0
        ? before
        : hand
          ? shown.innerText()
          : shown.first().getAttribute("aria-label");
    await expect
      .poll(
        async () => (await labelled()) !== before || !(await cardNow()).nextRow,
      )
      .toBe(true);
    if (!(await cardNow()).nextRow) break;
    const label = (before = await labelled());
    const check = checkOf(checks, label!)!;
    expect(check, label!).toBeDefined();
    const row = card.rows.find((r) => r.key.check === check.id)!;
    const radio = (word: string, within: Locator = main) =>
      press(
        within
          .getByRole("radio", { name: new RegExp(`^${escaped(word)}`) })
          .first(),
      );
    const wordOf = (word: string) =>
      textOf(`choice.${check.id}.${word}`) ?? textOf(`choice.${word}`) ?? word;
    const said = says[check.id];
    if (check.entry === "yesNo") await radio("yes");
    else if (check.entry === "items")
      await press(main.getByRole("button", { name: "The rest is fitted" }));
    else if (check.entry === "list") {
      // Steps that are confirmed one by one; of what is wrong, nothing is marked.
      if (said === "all")
        for (const box of await shown.first().getByRole("checkbox").all())
          await press(box);
    } else if (check.entry === "zones")
      for (const use of ["own ground", "rings"])
        await press(main.getByRole("button", { name: use, exact: true }));
    else if (check.judge === "walks")
      // Six of each show what the limit asks.
      for (let i = 0; i < 6; i++)
        for (const word of ["inside-rang", "outside-silent"])
          await press(
            main.getByRole("button", {
              name: new RegExp(
                `^${escaped(textOf(`field.${check.id}.walk.${word}`)!)}`,
              ),
            }),
          );
    else if (check.entry === "form") {
      // The tester first: what it does not read is said after it.
      const isRead = !!check.tester;
      if (isRead) {
        await press(main.getByRole("button", { name: reads }));
        await expect(main.getByText(/^(Answered|From) /).first()).toBeVisible();
      }
      for (const field of check.fields) {
        if (
          isRead &&
          (said as Record<string, string>)?.[field.id] === undefined
        )
          continue;
        const text = (word = "") =>
          textOf(`field.${check.id}.${field.id}${word && `.${word}`}`)!;
        const value =
          (said as Record<string, string> | undefined)?.[field.id] ??
          field.good[0]?.word ??
          {
            text: "M. Okafor",
            count: "1",
            number: undefined,
            word: field.words[0],
          }[field.entry];
        // What may stay empty stays so.
        if (value === undefined) continue;
        if (field.entry === "word")
          await radio(
            text(value),
            main.getByRole("radiogroup", { name: text() }),
          );
        else {
          presses++;
          await main.getByLabel(new RegExp(`^${escaped(text())}`)).fill(value);
        }
      }
    } else if (typeof said === "string" && check.choices.includes(said))
      await radio(wordOf(said));
    else if (check.tester)
      await press(main.getByRole("button", { name: reads }));
    else if (check.entry === "choice")
      await radio(wordOf(check.good[0]?.word ?? check.choices[0]));
    else {
      presses++;
      await main
        .getByTestId("entry")
        .fill(String(said ?? row.expected?.value?.value ?? 0));
    }
    if (check.picture)
      await main.getByTestId("take-picture").last().setInputFiles({
        name: "seen.png",
        mimeType: "image/png",
        buffer: picture,
      });
    await expect(onward.last(), check.id).toBeEnabled();
    const all = main.getByRole("button", { name: /^Save all/ });
    await press((await all.count()) ? all : onward.first());
    rows += await taken(card.taken, check.id);
  }
  return { presses, rows };
}

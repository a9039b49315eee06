import { readFileSync, readdirSync } from "node:fs";
import { resolve } from "node:path";
import { type Page } from "@playwright/test";

const folder = resolve(import.meta.dirname, "../../texts");
const texts: Record<string, string> = Object.assign(
  {},
  ...readdirSync(folder)
    .filter((f) => f.startsWith("en"))
    .map((f) => JSON.parse(readFileSync(`${folder}/${f}`, "utf8")) as object),
);

/** What people read, as it ships; undefined where nothing is said so. */
export const textOf = (code: string): string | undefined => texts[code];

/** A text as a pattern that finds it. */
export const escaped = (text: string) =>
  text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");

export interface Field {
  id: string;
  entry: "word" | "text" | "number" | "count";
  unit: string;
  words: string[];
  good: { word: string }[];
  optional: boolean;
}
export interface Check {
  id: string;
  entry: string;
  judge: string;
  choices: string[];
  fields: Field[];
  picture: boolean;
  confirmEach: boolean;
  lines: { most: number } | null;
}
export interface Card {
  nextRow: string | null;
  taken: number;
  rows: {
    id: string;
    key: { check: string };
    state: string;
    required: boolean;
    attempts: unknown[];
    because: { code: string }[];
    lights: { id: string }[];
    items: { id: string }[];
    window: { min: number | null; max: number | null } | null;
    expected: { value: { value: number } | null; word: string | null } | null;
  }[];
}
type Said = { field: string; number: number | null; word: string | null };
type Line = { said: Said[]; at: string | null };
export type Value =
  | { kind: "yesNo"; yes: boolean }
  | { kind: "choice"; choice: string }
  | { kind: "list"; marked: string[] }
  | { kind: "items"; items: object[] }
  | { kind: "number"; value: number; unit?: string }
  | { kind: "text"; text: string }
  | { kind: "probes" }
  | { kind: "wireMap" }
  | { kind: "week" }
  | { kind: "zones" }
  | { kind: "form"; lines: Line[] };

/** The Check that a page names: the longest name that fits, as some begin with the whole name of another. */
export const checkOf = <C extends { id: string }>(
  checks: readonly C[],
  label: string,
): C | undefined => {
  const name = (c: C) => textOf(`check.${c.id}`) ?? c.id;
  return checks
    .filter((c) => label === name(c) || label.startsWith(`${name(c)}, `))
    .sort((a, b) => name(b).length - name(a).length)[0];
};

/** What sheets, lists and plans say, where a number has to fit others. */
const sheets: Record<string, Record<string, string | number>> = {
  "time.flicker": { mains: "50", frames: 25, shutter: 100 },
  "plates.link": {
    ...{ role: "entry", server: "10.46.8.11" },
    ...{ "port-camera": 8443, "port-recorder": 8443 },
    ...{ "login-camera": "set", "login-recorder": "set" },
    ...{ "id-camera": "10010001", "id-recorder": "10010001" },
    ...{ "light-camera": "green", "light-recorder": "green" },
  },
  "plates.geometry": {
    ...{ plate: 0.52, camera: 1.4, mounted: 0.5, ahead: 7, aside: 2 },
    ...{ pixels: 1920, field: 34, exposure: 1, frames: 25, zone: 3, speed: 30 },
  },
  "coax.cable": {
    ...{ class: "rg59", centre: "copper", metres: 80, format: "composite" },
  },
  "coax.level": { system: "625", sync: 290, burst: 245 },
  "coax.camera-end": { system: "625", sync: 300 },
  "radio.budget": {
    ...{ metres: 1200, megahertz: 5800, power: 20, "gain-a": 23, "gain-b": 23 },
    ...{ "loss-a": 1, "loss-b": 1, sensitivity: -75, allowed: 45 },
  },
  "radio.path": { at: 600, "height-a": 12, "height-b": 12, obstacle: 4 },
  "radio.load": { negotiated: 300, streams: 12 },
  "recorder.store": {
    ...{ level: "one-parity", disks: 6, disk: 12000, written: 1527 },
    ...{ source: "recorder", days: 31 },
  },
  "recorder.line": { upload: 40, sends: 6.4, viewers: 3, each: 2 },
  "recorder.card": {
    ...{ seat: "clicked", class: "v30", size: 128, rate: 6, on: "yes" },
    ...{ clip: "yes" },
  },
  "bridge.attached": {
    ...{ identifier: "entered", light: "good", account: "client" },
    ...{ "after-restart": "attached" },
  },
};

const usual = (unit: string) =>
  unit === "volt"
    ? [12, 24, 48]
    : unit === "ampere"
      ? [5, 10]
      : unit === "count"
        ? [1, 12, 40, 120]
        : [12, 40, 120];

const said = (field: string, says: string | number): Said =>
  typeof says === "number"
    ? { field, number: says, word: null }
    : { field, number: null, word: says };

/** Every combination of the words of a form, its numbers as plates show them. */
function* forms(check: Check): Generator<Value> {
  let lines: Said[][] = [[]];
  for (const field of check.fields)
    lines = lines.flatMap((line) =>
      (field.entry === "word"
        ? field.words
        : field.entry === "text"
          ? ["M. Okafor"]
          : field.entry === "count"
            ? [1]
            : field.optional
              ? [undefined]
              : usual(field.unit)
      ).map((says) =>
        says === undefined ? line : [...line, said(field.id, says)],
      ),
    );
  const often = check.lines ? Math.min(80, check.lines.most) : 1;
  for (const line of lines)
    yield {
      kind: "form",
      lines: Array.from({ length: often }, (_, i) => ({
        said: line,
        at:
          check.lines && check.fields.length === 1
            ? new Date(Date.now() - (often - i) * 60_000).toISOString()
            : null,
      })),
    };
}

function* candidates(
  check: Check,
  row: Card["rows"][number],
): Generator<Value> {
  const { expected, window } = row;
  switch (check.entry) {
    case "yesNo":
      return yield { kind: "yesNo", yes: true };
    case "choice":
      for (const choice of [expected?.word, ...check.choices])
        if (choice && check.choices.includes(choice))
          yield { kind: "choice", choice };
      return;
    case "light":
      for (const light of row.lights)
        yield { kind: "choice", choice: light.id };
      return;
    case "list":
      return yield { kind: "list", marked: [] };
    case "items":
      return yield {
        kind: "items",
        items: row.items.map(({ id }) => ({
          item: id,
          state: "fitted",
          by: null,
          why: null,
        })),
      };
    case "text":
      return yield { kind: "text", text: expected?.word ?? "1.0.0" };
    case "number": {
      const { min, max } = window ?? { min: null, max: null };
      const of = [
        expected?.value?.value,
        0,
        min !== null && min > 0 && min < 2 ? min * 1.5 : undefined,
        min !== null ? min + 5 : undefined,
        max !== null ? max - 5 : undefined,
        min !== null && max !== null ? (min + max) / 2 : undefined,
      ];
      for (const n of of)
        if (n !== undefined)
          yield { kind: "number", value: Math.round(n * 100) / 100 };
      return;
    }
    case "form": {
      const sheet = sheets[check.id];
      if (sheet)
        return yield {
          kind: "form",
          lines: [
            {
              said: Object.entries(sheet).map(([f, v]) => said(f, v)),
              at: null,
            },
          ],
        };
      if (check.judge === "walks")
        return yield {
          kind: "form",
          lines: Array.from({ length: 12 }, (_, i) => ({
            said: [
              said("walk", i % 2 === 0 ? "inside-rang" : "outside-silent"),
            ],
            at: new Date(Date.now() - (12 - i) * 60_000).toISOString(),
          })),
        };
      return yield* forms(check);
    }
  }
}

/** The first answer that the record would judge in; null: none that anybody here knows. */
export async function good(
  page: Page,
  device: string,
  check: Check,
  row: Card["rows"][number],
): Promise<Value | null> {
  // What is drawn, or goes pin by pin, is only ever said one way.
  if (["probes", "wireMap", "week", "zones"].includes(check.entry))
    return { kind: check.entry } as Value;
  const tried: unknown[] = [];
  // Judged by the accuracy of what is in the hand, as the page has it.
  const instrumentId = await page.evaluate(() => {
    const { byJob = {} } = JSON.parse(
      localStorage.getItem("walkdown.identity") ?? "{}",
    ) as { byJob?: Record<string, { instrumentId?: string }> };
    return Object.values(byJob)[0]?.instrumentId ?? null;
  });
  for (const value of candidates(check, row)) {
    const body =
      value.kind === "number" ? { text: String(value.value) } : { value };
    const judged = (await (
      await page.request.post(`/api/cards/${device}/preview`, {
        data: { row: row.id, seen: true, instrumentId, ...body },
      })
    ).json()) as {
      state?: string;
      refused?: unknown;
      because?: { code: string }[];
    };
    if (judged.state === "in") return value;
    if (tried.length < 3) tried.push({ value, judged });
  }
  console.log(`nothing is in for ${row.id}: ${JSON.stringify(tried)}`);
  return null;
}

import type { components } from '../../api/generated/schema';
import type { OutboxItem } from '../../outbox/items';

type Schemas = components['schemas'];
export type Plates = Schemas['PlatesAnswer'];
export type Trial = Schemas['PlateTrial'];
export type Pass = Schemas['TrialPass'];
export type Count = Schemas['TrialCount'];
export type Design = Schemas['DriveDesign'];
export type Planned = Schemas['PlannedPass'];
export type Outcome = Schemas['PassOutcome'];

/** A pass that was ticked off here and is not on record yet. */
export interface Waiting {
  id: string;
  vehicle: string;
  at: number;
  refused: boolean;
}

/** What was ticked off here and not sent yet, in the order of pressing. */
export const waitingPasses = (outbox: OutboxItem[], deviceId: string, onRecord: { id: string }[] = []): Waiting[] =>
  outbox
    .filter((item) => item.deviceId === deviceId && item.path === '/plates/passes' && !onRecord.some((p) => p.id === item.id))
    .map((item) => {
      const body = item.body as { vehicle: string; takenAt: string; clockOffsetMs: number; secondsBefore?: number };
      return {
        id: item.id,
        vehicle: body.vehicle,
        at: Date.parse(body.takenAt) + body.clockOffsetMs - (body.secondsBefore ?? 0) * 1000,
        refused: !!item.refused,
      };
    });

/** So many passes are wanted beyond those that were pressed; null: there is no plan, or it is shown that they would not help. */
export const leftNow = (trial: Trial, waiting: Waiting[]): number | null =>
  trial.left === null ? null : Math.max(0, trial.left - waiting.filter((w) => !w.refused).length);

/**
 * The pass that comes next, and from when on it may come (by the record's clock): the record's word, and while something is not sent what the
 * plan says with that counted in.
 */
export function nextPass(trial: Trial, waiting: Waiting[]): { planned: Planned; from: number | null } | null {
  const own = waiting.filter((w) => !w.refused);
  if (own.length === 0) return trial.next && { planned: trial.next, from: trial.nextFrom === null ? null : Date.parse(trial.nextFrom) };
  if (!leftNow(trial, waiting)) return null;
  const driven = trial.passes.filter((p) => (p.isNight ?? false) === (trial.isDark ?? false)).length + own.length;
  const planned = trial.plan?.passes[driven];
  if (!planned) return null;
  const times = [...trial.passes.map((p) => ({ vehicle: p.vehicle, at: Date.parse(p.at) })), ...own];
  const before = times.filter((p) => p.vehicle === planned.vehicle).at(-1);
  return { planned, from: before && planned.afterOwnSeconds > 0 ? before.at + planned.afterOwnSeconds * 1000 : null };
}

/** Whole seconds until a moment; null where it is there. */
export const secondsUntil = (from: number | null, now: number): number | null =>
  from === null || from <= now ? null : Math.ceil((from - now) / 1000);

/** The count that matters now: of the light that it is. */
export const countNow = (trial: Trial): Count | undefined => trial.counts[trial.isDark ? 1 : 0];

/** Where the axis begins on which all counts of a drive are shown: what is asked and what is open both fit, in whole tens. */
export const axisFrom = (counts: Count[], required: number): number =>
  Math.max(
    0,
    counts.reduce(
      (least, c) => Math.min(least, c.rate ? Math.floor((c.rate.lowPercent - 4) / 10) * 10 : least),
      Math.floor(required / 10) * 10 - 10,
    ),
  );

/** How sure a rate is, as shares of the axis; null where nothing counts. */
export function onAxis(count: Count, required: number, from: number): { low: number; high: number; at: number; required: number } | null {
  if (!count.rate) return null;
  const share = (percent: number) => (percent - from) / (100 - from);
  return {
    low: share(count.rate.lowPercent),
    high: share(count.rate.highPercent),
    at: share(count.rate.percent),
    required: share(required),
  };
}

/** One moment on the strip: a pass, its record, or a record without one. */
export interface Mark {
  x: number;
  pass?: Pass;
  /** What the list has here. */
  record?: { text: string | null; fate: Schemas['LineFate'] };
}

/**
 * The drive and its list side by side: everything in the order that it happened, evenly spaced, since what matters is what belongs
 * together and not how long somebody turned round.
 */
export function marksOf(trial: Trial, gap = 26): { marks: Mark[]; width: number } {
  const lineOf = new Map(trial.lines.filter((l) => l.pass !== null).map((l) => [l.pass, l]));
  const moments: { at: number; mark: Omit<Mark, 'x'> }[] = trial.passes.map((pass) => {
    const line = lineOf.get(pass.number);
    // Of an earlier visit the list is not shown, what became of its passes is.
    const wasThere = pass.outcome === 'read' || pass.outcome === 'misread' ? { text: pass.read, fate: 'pass' as const } : undefined;
    return { at: Date.parse(pass.at), mark: { pass, record: line ? { text: line.text, fate: line.fate } : wasThere } };
  });
  for (const line of trial.lines)
    if (line.pass === null) moments.push({ at: Date.parse(line.at), mark: { record: { text: line.text, fate: line.fate } } });
  moments.sort((a, b) => a.at - b.at);
  return { marks: moments.map(({ mark }, i) => ({ ...mark, x: gap * (i + 0.5) })), width: Math.max(gap, gap * moments.length) };
}

/** Rows of the Card that would be told something new. */
export const rowsToKeep = (answer: Plates) => answer.rows.filter((r) => !r.isKept);

/** A drive as it is typed: blank lines are none. */
export const tidy = (design: Design): Design => ({
  ...design,
  vehicles: design.vehicles.filter((v) => v.name.trim() || v.plate.trim()),
  lanes: design.lanes.map((l) => l.trim()).filter(Boolean),
});

/** The letter of the next vehicle. */
export const nextName = (design: Design): string =>
  [...'ABCDEFGH'].find((name) => !design.vehicles.some((v) => v.name.trim().toUpperCase() === name)) ?? '';

/** Speeds as they are typed, "20, 40"; null where one is no number. */
export function speedsOf(text: string): number[] | null {
  const speeds = text
    .split(/[\s;,]+/)
    .filter(Boolean)
    .map(Number);
  return speeds.some(Number.isNaN) ? null : speeds;
}

/** A file as it goes into a request. */
export async function asBase64(file: Blob): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}

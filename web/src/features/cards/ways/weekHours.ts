import type { WeekSpan } from '../../../api/types';

export const dayMinutes = 24 * 60;

const two = (n: number) => String(n).padStart(2, '0');
const clock = (minutes: number) => `${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;

/** The same hours, each once, none touching the next. */
export function together(spans: readonly WeekSpan[]): WeekSpan[] {
  const result: WeekSpan[] = [];
  for (const span of [...spans].sort((a, b) => a.day - b.day || a.from - b.from)) {
    const last = result.at(-1);
    if (last && last.day === span.day && span.from <= last.to) result[result.length - 1] = { ...last, to: Math.max(last.to, span.to) };
    else result.push(span);
  }
  return result;
}

/** Hours of a day as they are typed: 06:00-22:00 23:00-24:00. */
export const written = (spans: readonly WeekSpan[], day: number) =>
  spans
    .filter((s) => s.day === day)
    .map((s) => `${clock(s.from)}-${clock(s.to)}`)
    .join(' ');

const time = /^(\d{1,2})(?:[:.h]?(\d{2}))?$/;

function minutes(text: string): number | null {
  const found = time.exec(text);
  if (!found) return null;
  const [hours, rest] = [Number(found[1]), Number(found[2] ?? 0)];
  const all = hours * 60 + rest;
  return rest < 60 && all <= dayMinutes ? all : null;
}

/** What was typed for a day; null: it is no hours. Over midnight belongs to two days, and is none of one. */
export function readHours(text: string, day: number): WeekSpan[] | null {
  const parts = text
    .trim()
    .split(/[\s,;]+/)
    .filter(Boolean);
  const spans: WeekSpan[] = [];
  for (const part of parts) {
    const [from, to, more] = part.split(/[-\u2013]/).map(minutes);
    if (more !== undefined || from === null || from === undefined || to === null || to === undefined || from >= to) return null;
    spans.push({ day, from, to });
  }
  return together(spans);
}

/** A stretch of a day painted in, or out. */
export function painted(spans: readonly WeekSpan[], day: number, from: number, to: number, isOn: boolean): WeekSpan[] {
  const [start, end] = [Math.min(from, to), Math.max(from, to)];
  const cut = spans.flatMap((s) =>
    s.day !== day || s.to <= start || s.from >= end
      ? [s]
      : [
          { ...s, to: start },
          { ...s, from: end },
        ].filter((p) => p.from < p.to),
  );
  return together(isOn ? [...cut, { day, from: start, to: end }] : cut);
}

/** One day's hours for all seven. */
export const everyDay = (spans: readonly WeekSpan[], day: number): WeekSpan[] =>
  [1, 2, 3, 4, 5, 6, 7].flatMap((d) => spans.filter((s) => s.day === day).map((s) => ({ ...s, day: d })));

export const hoursOf = (spans: readonly WeekSpan[]) => spans.reduce((sum, s) => sum + s.to - s.from, 0) / 60;

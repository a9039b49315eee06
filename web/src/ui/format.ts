import type { CardRow, Spare } from '../api/types';
import { has, say, t } from '../texts';

export const fixed = (value: number, decimals: number) => value.toFixed(decimals);

export const unitOf = (row: CardRow) => t(`unit.${row.check.unit}`);

/** "Loop resistance", with its pair and condition apart. */
export const nameOf = (row: CardRow) => t(`check.${row.check.id}`);

/** The part of the subject in words: a pair, a group of fasteners, a preset. */
function partOf(row: CardRow): string {
  const { part } = row.key.on;
  const preset = /^preset-(\d+)$/.exec(part);
  return !part ? '' : preset ? t('part.preset', preset[1]) : has(`part.${part}`) ? t(`part.${part}`) : t('report.pair', part);
}

/** Which of several heads, runs, ports or channels it is of, and which part of that. */
export const whichOf = (row: CardRow): string => [row.of && say(row.of), partOf(row)].filter(Boolean).join(', ');

/** Under which conditions it is read. */
export const underOf = (row: CardRow): string =>
  !row.key.under || row.key.under === 'any'
    ? ''
    : row.key.under
        .split(', ')
        .map((c) => t(`condition.${c[0].toLowerCase()}${c.slice(1)}`))
        .join(', ');

export const qualifierOf = (row: CardRow): string => [whichOf(row), underOf(row)].filter(Boolean).join(', ');

/** A choice in words: of the check itself where it has its own, of the light table, or of all checks. */
export function choiceText(row: CardRow, choice: string): string {
  const light = row.check.entry === 'light' ? row.lights.find((l) => l.id === choice) : undefined;
  if (light) return t(`light.${light.state}`);
  const own = `choice.${row.check.id}.${choice}`;
  return has(own) ? t(own) : has(`choice.${choice}`) ? t(`choice.${choice}`) : choice;
}

/** What a counter went on by between two looks; one that began anew at zero went on, and did not go back. */
export const between = (first: number, second: number, bits: number) => (second >= first ? second - first : second + 2 ** bits - first);

export function limitText(row: CardRow): string {
  const w = row.window;
  const d = row.check.decimals;
  if (!w) return '';
  if (w.empty) return t('limit.none-possible');
  if (w.min !== null && w.max !== null) return t('limit.between', fixed(w.min, d), fixed(w.max, d));
  return w.max !== null ? t('limit.at-most', fixed(w.max, d)) : t('limit.at-least', fixed(w.min!, d));
}

/** "+6.6 m"; beyond a limit "8.3 m over". Never rounded so that a failing value reads as the limit itself. */
export function spareText(row: CardRow, spare: Spare | null): string {
  if (!spare) return '';
  let d = row.check.decimals;
  if (Number(Math.abs(spare.value).toFixed(d)) === 0 && spare.value < 0) d += 2;
  const shown = `${fixed(Math.abs(spare.value), d)} ${unitOf(row)}`;
  return spare.value >= 0 ? `+${shown}` : `${shown} ${t(spare.nearest === 'min' ? 'spare.under' : 'spare.over')}`;
}

export function expectedText(row: CardRow): string {
  const e = row.expected;
  if (!e) return '';
  if (e.whyNone) return t(e.whyNone.code, ...e.whyNone.args);
  if (row.check.entry === 'number' && e.value) return `${fixed(e.value.value!, row.check.decimals)} ${unitOf(row)}`;
  if (e.word?.startsWith('@')) return t(e.word.slice(1));
  if (e.word)
    return has(`expect.word.${e.word}`)
      ? t(`expect.word.${e.word}`)
      : `${has(`choice.${e.word}`) ? t(`choice.${e.word}`) : e.word} ${unitOf(row)}`.trim();
  return '';
}

/** What a row should read, or why nobody can say; empty where nothing is expected of it. */
export function expectLine(row: CardRow): string {
  const text = expectedText(row);
  return row.expected?.whyNone || !text ? text : t('card.expect', text);
}

/** Hours and minutes at the site. */
export const clock = (moment: string | number, zone: string) =>
  new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', timeZone: zone }).format(new Date(moment));

/** Day and time on the site's own clock: 14 October, 09:05. */
export const moment = (at: string | number, zone: string) =>
  new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit', timeZone: zone })
    .format(new Date(at))
    .replace(' at ', ', ');

/** A moment that will be read years later: 14 October 2026, 09:05. */
export const dayAndClock = (at: string | number, zone: string) =>
  new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', hour: '2-digit', minute: '2-digit', timeZone: zone })
    .format(new Date(at))
    .replace(' at ', ', ');

/** A moment of the days to come in as few signs as tell it: the clock, with its weekday where it is not today; further off, the day. */
export const soon = (at: string | number, zone: string, now: number = Date.now()) => {
  const shown = (when: string | number, style: Intl.DateTimeFormatOptions, locale = 'en-GB') =>
    new Intl.DateTimeFormat(locale, { ...style, timeZone: zone }).format(new Date(when));
  const days = (Date.parse(shown(at, {}, 'sv')) - Date.parse(shown(now, {}, 'sv'))) / 864e5;
  return days > 6
    ? shown(at, { day: 'numeric', month: 'short' })
    : (days > 0 ? `${shown(at, { weekday: 'short' })} ` : '') + clock(at, zone);
};

/** A day as people write it: 14 October 2026. What is no such day is shown as it stands. */
export const day = (iso: string | null | undefined) =>
  iso && /^\d{4}-\d\d-\d\d$/.test(iso)
    ? new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' }).format(new Date(iso))
    : (iso ?? '');

/** Bytes as megabytes, with as many digits as say something. */
export const megabytes = (bytes: number) => {
  const mb = bytes / 1_000_000;
  return mb < 10 ? mb.toFixed(1) : mb.toFixed(0);
};

import { useEffect, useState } from 'react';
import { clockOffsetMs } from '../../api/clock';
import type { CardRow } from '../../api/types';
import { t } from '../../texts';
import { dayAndClock } from '../../ui/format';

type Waiting = Pick<CardRow, 'wait'>;

/** Now by the record's clock. */
const recordNow = () => Date.now() + clockOffsetMs();

/** Whether a row cannot be taken yet: its time has not passed, or has not begun. */
export const isWaiting = ({ wait }: Waiting, now = recordNow()) =>
  !!wait && (!wait.until || Date.parse(wait.until) > now || (!!wait.ends && Date.parse(wait.ends) <= now));

/** Whether it waits for time alone; else for the dark, a recorder, or somebody. */
const isTime = (of: string) => of.startsWith('check.') || of.startsWith('act.');

/** The sign of what is waited for. */
export const signOf = (of: string) => (isTime(of) ? 'cure' : of);

/** Hours and minutes that are left. */
export function left(ms: number): string {
  const minutes = Math.max(1, Math.ceil(ms / 60_000));
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

/** How the wait of a row stands, in words; empty where it has none. */
export function waitText({ wait }: Waiting, zone: string, now = recordNow()): string {
  if (!wait) return '';
  const ended = !!wait.ends && Date.parse(wait.ends) <= now;
  if (!wait.until || ended) return t(isTime(wait.for) ? 'wait.not-begun' : 'wait.for', t(wait.for));
  const until = Date.parse(wait.until);
  if (!isTime(wait.for))
    return until > now
      ? `${t('wait.for', t(wait.for))}, ${t('wait.from', dayAndClock(until, zone))}, ${t('wait.left', left(until - now))}`
      : t('wait.here', t(wait.for), wait.ends ? t('wait.to', dayAndClock(wait.ends, zone)) : '').trim();
  return until > now
    ? `${t('wait.until', dayAndClock(until, zone))}, ${t('wait.left', left(until - now))}`
    : t('wait.over', dayAndClock(until, zone));
}

/** Draws anew while something waits, so that what is over is seen to be over. */
export function useWaiting(waits: boolean) {
  const [, tick] = useState(0);
  useEffect(() => {
    if (!waits) return;
    const timer = setInterval(() => tick((n) => n + 1), 15_000);
    return () => clearInterval(timer);
  }, [waits]);
}

import { useEffect, useState } from 'react';
import type { CardRow } from '../../../api/types';
import { t } from '../../../texts';
import type { Entry } from '../entry';
import { opening, readOpened, standing } from './countdown';

/** A window that something has to be done in: it counts down, also while the page is elsewhere, and each opening is a try. */
export function Countdown({ row, entry }: { row: CardRow; entry: Entry }) {
  const seconds = row.countdownSeconds!;
  const key = `walkdown.window.${row.id}`;
  const [opened, setOpened] = useState(() => readOpened(localStorage.getItem(key)));
  const [now, setNow] = useState(Date.now());
  const { left, tries, closed } = standing(opened, seconds, now);
  const isOpen = left > 0;
  useEffect(() => {
    if (!isOpen) return;
    const timer = setInterval(() => setNow(Date.now()), 250);
    return () => clearInterval(timer);
  }, [isOpen]);
  useEffect(() => {
    if (closed && opened && Date.now() - opened.since < (seconds + 2) * 1000) navigator.vibrate?.(300);
  }, [closed, opened, seconds]);
  const open = () => {
    const next = opening(opened, seconds, Date.now());
    localStorage.setItem(key, JSON.stringify(next));
    setOpened(next);
    setNow(Date.now());
    const field = row.check.countdown?.field;
    const said = entry.draft.lines?.[0]?.said ?? {};
    if (field) entry.change({ ...entry.draft, lines: [{ said: { ...said, [field]: String(next.tries) } }] });
  };
  return (
    <div className="flex flex-wrap items-center gap-x-4">
      <button type="button" className="plain !min-h-11 whitespace-nowrap" onClick={open}>
        {tries === 0 ? t('countdown.start', seconds) : t('countdown.again', seconds)}
      </button>
      {isOpen && (
        <span role="timer" className="font-read text-lead font-bold">
          {t('countdown.left', left, tries)}
        </span>
      )}
      {closed && (
        <span role="status" className="text-label font-semibold">
          {t('countdown.closed', tries)}
        </span>
      )}
    </div>
  );
}

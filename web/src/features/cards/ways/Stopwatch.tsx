import { useEffect, useState } from 'react';
import type { CardRow } from '../../../api/types';
import { t } from '../../../texts';
import type { Entry } from '../entry';

/** A stopwatch for checks that are a time: started at power, stopped at the picture. It goes on while the page is elsewhere. */
export function Stopwatch({ row, entry }: { row: CardRow; entry: Entry }) {
  const key = `walkdown.watch.${row.id}`;
  const [since, setSince] = useState<number | null>(() => Number(localStorage.getItem(key)) || null);
  const [now, setNow] = useState(Date.now());
  useEffect(() => {
    if (!since) return;
    const timer = setInterval(() => setNow(Date.now()), 250);
    return () => clearInterval(timer);
  }, [since]);
  const start = () => {
    localStorage.setItem(key, String(Date.now()));
    setSince(Date.now());
    setNow(Date.now());
  };
  const stop = () => {
    localStorage.removeItem(key);
    const seconds = Math.round((Date.now() - since!) / 1000);
    entry.change({ text: row.check.unit === 'minute' ? (seconds / 60).toFixed(1) : String(seconds) });
    setSince(null);
  };
  const gone = since ? Math.max(0, Math.floor((now - since) / 1000)) : 0;
  // What is left of the time that it may take, where something limits it.
  const most = row.window?.max;
  const rest = typeof most === 'number' ? most * (row.check.unit === 'minute' ? 60 : 1) - gone : undefined;
  return (
    <button type="button" className="plain !min-h-11 whitespace-nowrap" onClick={since ? stop : start}>
      {since ? t('watch.stop', gone) : t('watch.start')}
      {since && rest !== undefined && (
        <span className={`block text-tick ${rest < 0 ? 'font-bold text-refused' : ''}`} role={rest < 0 ? 'alert' : undefined}>
          {rest >= 0 ? t('watch.left', Math.ceil(rest)) : t('watch.over', -Math.floor(rest))}
        </span>
      )}
    </button>
  );
}

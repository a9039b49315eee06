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
    entry.change({ text: String(Math.round((Date.now() - since!) / 1000)) });
    setSince(null);
  };
  return (
    <button type="button" className="plain !min-h-11 whitespace-nowrap" onClick={since ? stop : start}>
      {since ? t('watch.stop', Math.max(0, Math.floor((now - since) / 1000))) : t('watch.start')}
    </button>
  );
}

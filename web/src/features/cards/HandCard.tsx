import { useEffect, useRef, useState } from 'react';
import type { CardRow } from '../../api/types';
import { t } from '../../texts';
import type { CardView } from './CardPage';
import { pendingOf } from './drafts';
import { due } from './due';
import { unsettled, OneCheck } from './HandCheck';
import { AllChecks } from './HandList';

/** One Check a screen, no scrolling, everything under the thumb. */
export function HandCard({ view }: { view: CardView }) {
  const { answer, active } = view;
  const [list, setList] = useState(false);
  const news = useNews(answer.card.faults);
  const rows = due(answer.card.rows, active?.id);
  if (rows.length === 0 || !active) return <p className="p-4">{t('card.no-checks')}</p>;
  const step = (by: number) => {
    const at = rows.findIndex((r) => r.id === active.id);
    const to = rows[at + by];
    if (to) view.activate(to.id);
    else setList(true);
  };
  const next = () => {
    const at = rows.findIndex((r) => r.id === active.id);
    const pending = (r: CardRow) => pendingOf(view.outbox, r.id).length > 0;
    const to = [...rows.slice(at + 1), ...rows.slice(0, at)].find((r) => unsettled(r) && !pending(r));
    if (to) view.activate(to.id);
    else setList(true);
  };
  if (list) return <AllChecks view={view} onChoose={(id) => (view.activate(id), setList(false))} />;
  return <OneCheck key={active.id} view={view} row={active} news={news} onNext={next} onStep={step} onList={() => setList(true)} />;
}

/** A Fault that was raised or closed a moment ago, in words; gone when the next one comes, or after a while. */
function useNews(faults: CardView['answer']['card']['faults']): string | undefined {
  const before = useRef<Map<string, boolean>>(undefined);
  const [news, setNews] = useState<string>();
  useEffect(() => {
    const was = before.current;
    before.current = new Map(faults.map((f) => [f.fault.id, f.open]));
    if (!was) return;
    const closed = faults.find((f) => !f.open && was.get(f.fault.id) === true);
    const raised = faults.find((f) => f.open && !was.has(f.fault.id));
    const told = closed
      ? t(closed.ended ? 'fault.news-ended' : 'fault.news-closed', closed.fault.title)
      : raised
        ? t('fault.news-raised', raised.fault.title)
        : undefined;
    if (told) setNews(told);
  }, [faults]);
  useEffect(() => {
    if (!news) return;
    const timer = setTimeout(() => setNews(undefined), 12_000);
    return () => clearTimeout(timer);
  }, [news]);
  return news;
}

import { useEffect, useRef, useState } from 'react';
import { t } from '../../texts';
import type { CardView } from './CardPage';
import { due, nextAsking } from './due';
import { OneCheck } from './HandCheck';
import { newsOf } from './news';
import { AllChecks } from './HandList';

/** One Check a screen, no scrolling, everything under the thumb. */
export function HandCard({ view }: { view: CardView }) {
  const { answer, active } = view;
  const [list, setList] = useState(false);
  const news = useNews(answer, active?.id);
  const rows = due(answer.card.rows, active?.id);
  if (rows.length === 0) return <p className="p-4">{t('card.no-checks')}</p>;
  if (!active) return null;
  const step = (by: number) => {
    const at = rows.findIndex((r) => r.id === active.id);
    const to = rows[at + by];
    if (to) view.activate(to.id);
    else setList(true);
  };
  const next = (saved: string[] = [], bad?: string) => {
    const to = bad ?? nextAsking(rows, view.outbox, active.id, saved)?.id;
    if (to) view.activate(to);
    else setList(true);
  };
  if (view.readOnly) return <AllChecks view={view} onChoose={view.activate} />;
  if (list) return <AllChecks view={view} onChoose={(id) => (view.activate(id), setList(false))} />;
  return <OneCheck key={active.id} view={view} row={active} news={news} onNext={next} onStep={step} onList={() => setList(true)} />;
}

/**
 * What became of the Card a moment ago, in words: a Fault raised or closed, a row out that is not on the screen. Gone when the next one
 * comes, or after a while.
 */
function useNews({ card }: CardView['answer'], here?: string): string | undefined {
  const before = useRef(card);
  const [news, setNews] = useState<string>();
  useEffect(() => {
    const told = newsOf(before.current, card, here);
    before.current = card;
    if (told) setNews(told);
  }, [card, here]);
  useEffect(() => {
    if (!news) return;
    const timer = setTimeout(() => setNews(undefined), 12_000);
    return () => clearTimeout(timer);
  }, [news]);
  return news;
}

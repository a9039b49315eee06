import { useState } from 'react';
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
  return <OneCheck key={active.id} view={view} row={active} onNext={next} onStep={step} onList={() => setList(true)} />;
}

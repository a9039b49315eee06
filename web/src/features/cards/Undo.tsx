import { keep } from '../../outbox/outbox';
import { t } from '../../texts';
import { nameOf } from '../../ui/format';
import type { CardView } from './CardPage';
import { forgotten, useLately } from './lately';

/** Takes back what was saved a moment ago: it stays on record as a slip that counts for nothing. */
export function useUndo(view: CardView) {
  const saved = useLately(view.answer.place.id);
  const row = saved && view.answer.card.rows.find((r) => r.id === saved.rowId);
  const undo = async () => {
    if (!saved) return;
    // Behind the reading, whether that is on its way, sent, or waits for a network: what is on its way cannot be held.
    await keep(view.answer.place.id, '/withdrawals', { of: saved.readingId, reason: 'slip' }, saved.rowId);
    forgotten();
    view.activate(saved.rowId);
  };
  return { saved: row ?? null, undo };
}

/** For a minute after a save. */
export function Undo({ view, className }: { view: CardView; className?: string }) {
  const { saved, undo } = useUndo(view);
  if (!saved) return null;
  return (
    <button type="button" className={className} onClick={() => void undo()}>
      {t('card.undo', nameOf(saved))}
    </button>
  );
}

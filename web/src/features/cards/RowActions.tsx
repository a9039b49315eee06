import type { CardRow } from '../../api/types';
import { t } from '../../texts';
import { nameOf } from '../../ui/format';
import type { CardView } from './CardPage';

/** What can be done about a row beside reading it. In the hand they are fields of a grid, a Fault always among them, at its end. */
export function RowActions({ view, row, hand }: { view: CardView; row: CardRow; hand?: string }) {
  const button = hand ?? 'min-h-9 text-label font-semibold underline max-[1151px]:min-h-11';
  return (
    <div className={hand ? 'contents' : 'flex flex-wrap gap-x-4 border-b border-hairline py-1'} role="group" aria-label={nameOf(row)}>
      {(row.isFailing || hand) && (
        <button className={`${button} !text-refused ${hand ? 'order-last' : ''}`} onClick={() => view.sheet('fault', row)}>
          {t(hand ? 'button.fault' : 'button.raise')}
        </button>
      )}
      {row.isForTheEye && (
        <button className={`${button} !text-noted`} onClick={() => view.sheet('ruling', row)}>
          {t('button.judge')}
        </button>
      )}
      {row.unexpected.length > 0 && (
        <button className={`${button} ${row.isUnexplained ? '!text-noted' : ''}`} onClick={() => view.sheet('ruling', row)}>
          {t(row.isUnexplained ? 'button.explain' : 'button.explain-again')}
        </button>
      )}
      <button className={button} onClick={() => view.sheet('act', row)}>
        {t('card.record-work')}
      </button>
      {row.isFailing && !row.conceded && (
        <button className={button} onClick={() => view.sheet('concede', row)}>
          {t('button.concede')}
        </button>
      )}
      <button className={button} onClick={() => view.sheet('note', row)}>
        {t('button.note')}
      </button>
      {/* In the hand a row that a tester reads has six actions without it: a third line of them would take the keys their room. */}
      {(row.state === 'notTaken' || row.state === 'stale') && !(hand && row.check.tester) && (
        <button className={button} onClick={() => view.sheet('skip', row)}>
          {t('button.skip')}
        </button>
      )}
      <button className={button} onClick={() => view.sheet('na', row)}>
        {t('button.na')}
      </button>
      {row.attempts.some((a) => a.standing !== 'withdrawn') && (
        <button className={button} onClick={() => view.sheet('withdraw', row)}>
          {t('button.withdraw')}
        </button>
      )}
    </div>
  );
}

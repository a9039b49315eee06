import type { CardRow } from '../../api/types';
import { say, t } from '../../texts';

const names = (checks: readonly unknown[]) => checks.map((id) => t(`check.${String(id)}`)).join(', ');

/** What comes before a row and is not done: what holds it, what is out, and what is missing elsewhere. */
export function Before({ row, className = '' }: { row: Pick<CardRow, 'heldBy' | 'waitsFor' | 'needs'>; className?: string }) {
  return (
    <>
      {row.heldBy.length > 0 && (
        <p role="alert" className={`font-bold text-refused ${className}`}>
          {t('hold.until', names(row.heldBy))}
        </p>
      )}
      {row.waitsFor.length > 0 && (
        <p className={`text-label font-semibold text-noted ${className}`}>{t('card.waits-for', names(row.waitsFor))}</p>
      )}
      {row.needs.map((need) => (
        <p key={say(need)} className={`text-label font-semibold text-noted ${className}`}>
          {say(need)}
        </p>
      ))}
    </>
  );
}

import type { CardRow } from '../../api/types';
import { t } from '../../texts';

/** Cautions of a row: those that stand here for the first time at this Stop, and those that a row taken before has said already. */
export function cautionsOf(row: CardRow, rows: readonly CardRow[]) {
  const said = new Set(rows.filter((r) => r.id !== row.id && r.attempts.length > 0).flatMap((r) => r.check.cautions));
  return {
    first: row.check.cautions.filter((c) => !said.has(c)),
    again: row.check.cautions.filter((c) => said.has(c)),
  };
}

/** In full once a Stop; then in a word each, and in full again by a press. */
export function Cautions({ row, rows, className = '' }: { row: CardRow; rows: readonly CardRow[]; className?: string }) {
  const { first, again } = cautionsOf(row, rows);
  return (
    <>
      {first.map((c) => (
        <p key={c} className={`text-tick leading-snug text-noted ${className}`}>
          {t(`caution.${c}`)}
        </p>
      ))}
      {again.length > 0 && (
        <details className={`text-tick text-noted ${className}`}>
          <summary className="min-h-6 cursor-pointer max-sm:min-h-11 max-sm:py-3">
            {t('caution.as-before', again.map((c) => t(`caution.${c}.word`)).join(', '))}
          </summary>
          {again.map((c) => (
            <p key={c} className="leading-snug">
              {t(`caution.${c}`)}
            </p>
          ))}
        </details>
      )}
    </>
  );
}

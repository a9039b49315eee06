import type { CardRow } from '../../api/types';
import { t } from '../../texts';

/** In full once a Stop; then in a word each, and in full again by a press. */
export function Cautions({ row, said, className = '' }: { row: CardRow; said: readonly string[]; className?: string }) {
  const first = row.check.cautions.filter((c) => !said.includes(c));
  const again = row.check.cautions.filter((c) => said.includes(c));
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

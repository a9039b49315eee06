import { Link } from '@tanstack/react-router';
import type { Impact } from '../../api/types';
import { t } from '../../texts';
import { VerdictMark } from '../../ui/Marks';

/** What a change would do: how many Cards, and each with its Verdict before and after. */
export function ImpactList({ impact }: { impact: Impact }) {
  return (
    <>
      <p className="font-bold">
        {impact.cards === 0 ? t('practice.touches-none') : t('practice.touches', impact.cards, impact.ofCards, impact.verdicts)}
      </p>
      <ul className="my-2 max-h-40 overflow-y-auto">
        {impact.lines.slice(0, 60).map((l) => (
          <li key={l.deviceId} className="flex items-center gap-2 border-b border-hairline py-1 text-label">
            <Link to="/card/$deviceId" params={{ deviceId: l.deviceId }} className="font-read font-bold underline">
              {l.label}
            </Link>
            {l.from !== l.to && (
              <span className="flex items-center gap-1.5">
                <VerdictMark verdict={l.from} size={13} /> {t(`verdict.${l.from}`)} &gt; <VerdictMark verdict={l.to} size={13} />{' '}
                {t(`verdict.${l.to}`)}
              </span>
            )}
            <span className="ml-auto text-ink-2">
              {(
                [
                  [l.rowsAdded, 'practice.rows-new'],
                  [l.rowsGone, 'practice.rows-gone'],
                  [l.rowsOtherwise, 'practice.rows-otherwise'],
                ] as const
              )
                .filter(([n]) => n > 0)
                .map(([n, what]) => t(what, n))
                .join(', ')}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

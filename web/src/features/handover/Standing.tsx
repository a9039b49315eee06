import { Link } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import type { HandoverAnswer, Verdict } from '../../api/types';
import { t } from '../../texts';
import { VerdictMark } from '../../ui/Marks';

export const counted: [Verdict, 'accepted' | 'noted' | 'refused' | 'open'][] = [
  ['accepted', 'accepted'],
  ['acceptedWithNote', 'noted'],
  ['refused', 'refused'],
  ['open', 'open'],
];

export function Standing({ answer }: { answer: HandoverAnswer }) {
  const newest = answer.revisions.find((r) => r.deviceId === null);
  return (
    <section className="mt-2 border-y border-ink py-3" aria-label={t('handover.standing')}>
      <div className="flex flex-wrap items-center gap-x-8 gap-y-2">
        {counted.map(([verdict, key]) => (
          <Why key={verdict} of={`cards-${verdict}`} name={t(`verdict.${verdict}`)} count={answer.now[key]}>
            <VerdictMark verdict={verdict} size={22} label="" />
          </Why>
        ))}
        {(
          [
            ['faults', answer.now.openFaults],
            ['readings', answer.now.readings],
            ['pictures', answer.now.pictures],
          ] as const
        ).map(([of, count]) => (
          <Why key={of} of={of} name={t(`sum.of.${of}`)} count={count} small />
        ))}
      </div>
      <p className={`mt-2 font-semibold ${newest && !answer.changed ? 'text-accepted' : 'text-noted'}`}>
        {!newest
          ? t('handover.never-sealed')
          : answer.changed
            ? t('handover.changed', newest.number)
            : t('handover.as-sealed', newest.number)}
      </p>
    </section>
  );
}

/** A number of the summary; a touch says how it came about and which Cards make it up. */
function Why({ of, name, count, small, children }: { of: string; name: string; count: number; small?: boolean; children?: ReactNode }) {
  return (
    <Link to="/why/$of" params={{ of }} aria-label={t('sum.open', `${count} ${name}`)} className="flex min-h-11 items-center gap-2">
      {children}
      <span className={`font-read font-bold ${small ? 'text-lead' : 'text-reading'}`}>{count}</span>
      <span className="text-label text-ink-2 underline">{name}</span>
    </Link>
  );
}

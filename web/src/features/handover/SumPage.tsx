import { Link, useParams } from '@tanstack/react-router';
import { useQuery } from '@tanstack/react-query';
import { answered, api } from '../../api/client';
import { useJob } from '../../session/useJob';
import { say, t } from '../../texts';
import { VerdictMark } from '../../ui/Marks';
import { Waiting } from '../walk/WalkPage';
import '../cards/cardTexts';
import '../pageTexts';
import './packTexts';
import { TraceSteps } from './TraceSteps';

/** How a number of the handover came about, and the Cards that make it up, each with what keeps it from being clean. */
export default function SumPage() {
  const { of } = useParams({ from: '/why/$of' });
  const { job } = useJob();
  const sum = useQuery({
    queryKey: ['handover', job?.id, 'why', of],
    enabled: !!job,
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/handover/sums/{of}', { params: { path: { jobId: job!.id, of } } })),
  });
  if (!sum.data) return <Waiting error={sum.error} again={() => void sum.refetch()} />;
  const { sum: x, cards, more, coreVersion } = sum.data;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-10 pt-4 max-sm:px-4">
      <div className="flex flex-wrap items-baseline gap-x-5">
        <h1 className="text-title font-bold">{nameOf(of)}</h1>
        <span className="font-read text-title font-bold">{say(x.value)}</span>
        <Link to="/handover" className="ml-auto flex min-h-11 items-center font-semibold underline">
          {t('sum.back')}
        </Link>
      </div>
      {cards.length === 0 ? (
        <TraceSteps steps={x.steps} />
      ) : (
        <>
          <p className="border-b border-ink pb-2 text-ink-2">{say(x.steps[0].what)}.</p>
          <ul className="max-w-4xl">
            {cards.map((c) => (
              <li key={c.id} className="border-b border-hairline">
                <Link
                  to="/card/$deviceId"
                  params={{ deviceId: c.id }}
                  className="grid min-h-12 grid-cols-[24px_104px_minmax(0,1fr)] items-baseline gap-x-3 py-2 max-sm:grid-cols-[24px_minmax(0,1fr)]"
                >
                  <span className="self-center">
                    <VerdictMark verdict={c.verdict} size={18} />
                  </span>
                  <span className="font-read font-bold underline max-sm:col-start-2">{c.label}</span>
                  <span className="max-sm:col-start-2">
                    <span className="block">{c.name}</span>
                    <span className="block text-label text-ink-2">
                      {of === 'pictures' ? t('sum.pictures-of', c.pictures) : c.exceptions.slice(0, 8).join(' ')}
                      {of !== 'pictures' && c.exceptions.length > 8 && ` ${t('sum.more-of', c.exceptions.length - 8)}`}
                    </span>
                  </span>
                </Link>
              </li>
            ))}
          </ul>
          {more > 0 && <p className="py-2 text-ink-2">{t('sum.more', more)}</p>}
        </>
      )}
      <p className="mt-3 text-label text-ink-2">{t('sum.basis', coreVersion)}</p>
    </main>
  );
}

const nameOf = (of: string) => (of.startsWith('cards-') ? t(`verdict.${of.slice(6)}`) : t(`sum.of.${of}`));

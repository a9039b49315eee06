import { Link, useParams, useSearch } from '@tanstack/react-router';
import { useQuery } from '@tanstack/react-query';
import { answered, api } from '../../api/client';
import { definitionsOf, withChecks } from '../../api/definitions';
import { t } from '../../texts';
import { nameOf, qualifierOf } from '../../ui/format';
import { valueOf } from '../cards/ways';
import { LimitGauge } from '../../ui/LimitGauge';
import { stateColour, StateMark } from '../../ui/Marks';
import { Waiting } from '../walk/WalkPage';
import '../cards/cardTexts';
import '../pageTexts';
import './packTexts';
import { TraceSteps } from './TraceSteps';

/** Why a row says what it says: each number with its formula, what it rests on, and the source of its limits. */
export default function TracePage() {
  const { deviceId } = useParams({ from: '/trace/$deviceId' });
  const { row } = useSearch({ from: '/trace/$deviceId' });
  const trace = useQuery({
    queryKey: ['card', deviceId, 'trace', row],
    queryFn: async () => {
      const answer = await answered(api.GET('/api/cards/{deviceId}/trace', { params: { path: { deviceId }, query: { row: row ?? '' } } }));
      return { ...answer, row: withChecks([answer.row], await definitionsOf())[0] };
    },
  });
  if (!trace.data) return <Waiting error={trace.error} again={() => void trace.refetch()} />;
  const { label, row: r, trace: x, edition, coreVersion } = trace.data;
  const counts = r.attempts.find((a) => a.readingId === r.counts);
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-10 pt-4 max-sm:px-4">
      <div className="flex flex-wrap items-baseline gap-x-5">
        <h1 className="font-read text-code font-bold">{label}</h1>
        <span className="text-lead font-bold">{[nameOf(r), qualifierOf(r)].filter(Boolean).join(', ')}</span>
        <Link
          to="/card/$deviceId"
          params={{ deviceId }}
          search={{ row: r.id }}
          className="ml-auto flex min-h-11 items-center font-semibold underline"
        >
          {t('pictures.to-card')}
        </Link>
      </div>
      <div className={`mt-2 flex flex-wrap items-center gap-x-6 border-y border-ink py-3 ${stateColour[r.state]}`}>
        <StateMark state={r.state} />
        <span className="font-read text-[2rem] font-bold leading-none">
          {counts ? Object.values(valueOf(r, counts.value, counts.map)).join(' ') : t(`state.${r.state}`)}
        </span>
        <span className="text-lead font-bold">{t(`state.${r.state}`)}</span>
        {r.check.entry === 'number' && (
          <span className="ml-auto text-ink max-sm:ml-0">
            <LimitGauge
              row={r}
              width={300}
              reading={
                counts?.value.kind === 'number'
                  ? { value: counts.value.value, state: r.state, half: counts.halfWidth, spare: r.spare }
                  : undefined
              }
            />
          </span>
        )}
      </div>
      <TraceSteps steps={x.steps} />
      <p className="mt-3 text-label text-ink-2">{t('trace.basis', edition, coreVersion)}</p>
    </main>
  );
}

import { Link, useParams } from '@tanstack/react-router';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, api } from '../../api/client';
import { useCard } from '../../api/queries';
import { t } from '../../texts';
import { Waiting } from '../walk/WalkPage';
import { Trial } from './PathTrial';
import '../cards/cardTexts';
import '../pageTexts';

/** A run piece by piece: what it should give, and what it would give otherwise. Nothing is kept until it is said. */
export default function PathPage() {
  const { deviceId } = useParams({ from: '/path/$deviceId' });
  const paths = useQuery({
    queryKey: ['path', deviceId],
    queryFn: () => answered(api.GET('/api/cards/{deviceId}/path', { params: { path: { deviceId } } })),
  });
  const card = useCard(deviceId);
  const [at, setAt] = useState(0);
  if (!paths.data || !card.data) return <Waiting error={paths.error ?? card.error} again={() => void paths.refetch()} />;
  if (paths.data.length === 0) return <p className="p-6">{t('path.none')}</p>;
  const run = paths.data[Math.min(at, paths.data.length - 1)];
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-10 pt-4 max-sm:px-4">
      <div className="flex flex-wrap items-baseline gap-x-5">
        <h1 className="font-read text-code font-bold max-sm:text-title">{run.device}</h1>
        <p className="text-lead font-bold">{t('path.title', run.label)}</p>
        <p className="text-label text-ink-2">
          {[run.port, run.drawn ? t('path.drawn') : t('path.from-schedule')].filter(Boolean).join(', ')}
        </p>
        <Link to="/card/$deviceId" params={{ deviceId }} className="ml-auto flex min-h-11 items-center font-semibold underline">
          {t('path.card')}
        </Link>
      </div>
      {paths.data.length > 1 && (
        <div className="flex gap-3">
          {paths.data.map((p, i) => (
            <button key={p.runId} className="plain" aria-pressed={i === at} onClick={() => setAt(i)}>
              {p.label}
            </button>
          ))}
        </div>
      )}
      <Trial key={run.runId + (run.drawn ? '1' : '0')} deviceId={deviceId} run={run} />
    </main>
  );
}

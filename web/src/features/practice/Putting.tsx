import { Link } from '@tanstack/react-router';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { answered } from '../../api/client';
import { useWork } from '../../api/queries';
import { troubleOf } from '../../api/send';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import { VerdictMark } from '../../ui/Marks';
import { Progress } from '../../ui/Progress';
import type { Started } from './types';

/** A change is tried on every Card first, then put in force with who and why; both can be long and are watched. */
export function Putting({
  attempt,
  put,
  onDone,
}: {
  attempt: () => Promise<Started>;
  put: (why: string) => Promise<Started>;
  onDone: () => void;
}) {
  const client = useQueryClient();
  const [why, setWhy] = useState('');
  const [workId, setWorkId] = useState<string>();
  const [step, setStep] = useState<'look' | 'put'>('look');
  const start = useMutation({
    mutationFn: (what: 'look' | 'put') => answered(what === 'look' ? attempt() : put(why)),
    onSuccess: (work, what) => {
      setStep(what);
      setWorkId(work.id);
    },
  });
  const work = useWork(workId);
  const state = workId ? work.data?.state : undefined;
  const impact = state === 'done' ? (work.data?.impact ?? undefined) : undefined;
  const finished = step === 'put' && state === 'done';
  useEffect(() => {
    if (!finished) return;
    void client.invalidateQueries().then(onDone);
  }, [finished, client, onDone]);
  if (workId && (!state || state === 'running'))
    return <Progress work={work.data} what={t(step === 'look' ? 'practice.looking' : 'practice.putting')} canCancel={step === 'look'} />;
  if (finished)
    return (
      <p role="status" className="my-3 font-bold">
        {t('practice.done')}
      </p>
    );
  return (
    <div className="my-3 border-l-4 border-accent pl-4">
      {impact && step === 'look' ? (
        <div role="status">
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
          <Labelled label={t('practice.why-label')}>
            <input className="field" value={why} maxLength={400} onChange={(e) => setWhy(e.target.value)} />
          </Labelled>
          <button className="forward disabled:opacity-50" disabled={!why.trim() || start.isPending} onClick={() => start.mutate('put')}>
            {t('practice.put')}
          </button>
        </div>
      ) : (
        <button className="forward" disabled={start.isPending} onClick={() => start.mutate('look')}>
          {t('practice.look')}
        </button>
      )}
      {(start.error || state === 'failed') && (
        <p role="alert" className="mt-2 font-semibold text-refused">
          {state === 'failed' ? work.data?.why : troubleOf(start.error)}
        </p>
      )}
    </div>
  );
}

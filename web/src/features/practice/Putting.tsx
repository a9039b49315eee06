import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { answered } from '../../api/client';
import { useWork } from '../../api/queries';
import { troubleOf } from '../../api/send';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import { Progress } from '../../ui/Progress';
import { ImpactList } from './ImpactList';
import type { Started } from './types';
import { Trouble } from '../../ui/Trouble';

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
          <ImpactList impact={impact} />
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
      <Trouble
        text={start.error || state === 'failed' ? (state === 'failed' ? work.data?.why : troubleOf(start.error)) : undefined}
        className="mt-2"
      />
    </div>
  );
}

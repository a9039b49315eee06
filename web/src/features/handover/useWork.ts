import { useEffect, useState } from 'react';
import { answered, api } from '../../api/client';
import { troubleOf } from '../../api/send';
import type { WorkAnswer } from '../../api/types';
import { t } from '../../texts';

/** Long work that was begun here: how far it is, what came of it, and what went wrong. */
export function useWork(onDone: (work: WorkAnswer) => void) {
  const [work, setWork] = useState<WorkAnswer>();
  const [trouble, setTrouble] = useState<string>();
  const running = work?.state === 'running';
  useEffect(() => {
    if (!work || work.state !== 'running') return;
    const timer = setTimeout(() => {
      answered(api.GET('/api/progress/{id}', { params: { path: { id: work.id } } }))
        .then((next) => {
          setWork(next);
          if (next.state === 'done') onDone(next);
          if (next.state === 'failed') setTrouble(next.why ?? t('ui.failed'));
        })
        .catch((error: unknown) => setTrouble(troubleOf(error)));
    }, 250);
    return () => clearTimeout(timer);
  }, [work, onDone]);
  const begin = (call: Promise<WorkAnswer>) => {
    setTrouble(undefined);
    setWork(undefined);
    call.then(setWork).catch((error: unknown) => setTrouble(troubleOf(error)));
  };
  return { work, running, trouble, begin, setTrouble };
}

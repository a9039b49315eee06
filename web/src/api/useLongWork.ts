import { useEffect, useRef, useState } from 'react';
import { useWork } from './queries';
import { troubleOf } from './send';
import type { WorkAnswer } from './types';
import { t } from '../texts';

/** Long work that was begun on this page: how far it is, what came of it, and what went wrong. */
export function useLongWork(onDone: (work: WorkAnswer) => void) {
  const [begun, setBegun] = useState<WorkAnswer>();
  const [refused, setRefused] = useState<string>();
  const asked = useWork(begun?.id);
  const work = asked.data ?? begun;
  const told = useRef<string>(undefined);
  useEffect(() => {
    if (work?.state !== 'done' || told.current === work.id) return;
    told.current = work.id;
    onDone(work);
  }, [work, onDone]);
  const begin = (call: Promise<WorkAnswer>) => {
    setRefused(undefined);
    setBegun(undefined);
    call.then(setBegun).catch((error: unknown) => setRefused(troubleOf(error)));
  };
  const trouble = refused ?? (work?.state === 'failed' ? (work.why ?? t('ui.failed')) : asked.error ? troubleOf(asked.error) : undefined);
  return { work, running: work?.state === 'running', trouble, begin };
}

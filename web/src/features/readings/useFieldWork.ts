import { useEffect, useRef, useState } from 'react';
import { useWork } from '../../api/queries';
import { troubleOf } from '../../api/send';
import type { IntakeAnswer, WorkAnswer } from '../../api/types';
import { say, t } from '../../texts';

/** Long work out in the field, one at a time: what runs, what it says in the end, and the readings that it proposes. */
export function useFieldWork(onOver: () => void) {
  const [id, setId] = useState<string>();
  const [doing, setDoing] = useState('');
  const [trouble, setTrouble] = useState<string>();
  const [words, setWords] = useState<string[]>([]);
  const [draft, setDraft] = useState<IntakeAnswer>();
  const work = useWork(id).data;
  const running = !!id && (!work || work.state === 'running');
  const over = useRef(onOver);
  useEffect(() => {
    over.current = onOver;
  });
  useEffect(() => {
    if (!work || work.state === 'running') return;
    setId(undefined);
    if (work.state === 'failed') setTrouble(work.why ?? t('ui.failed'));
    if (work.results) setDraft(work.results);
    setWords(work.state === 'cancelled' ? [t('readings.stopped')] : (work.look?.words ?? []).map(say));
    over.current();
  }, [work]);
  /** Begins it; what was said and proposed before is put away. */
  const begin = (what: string, asked: Promise<WorkAnswer>) => {
    setTrouble(undefined);
    setWords([]);
    setDraft(undefined);
    setDoing(what);
    asked.then((w) => setId(w.id)).catch((error: unknown) => setTrouble(troubleOf(error)));
  };
  return { begin, running, work, doing, trouble, setTrouble, words, setWords, draft, setDraft };
}

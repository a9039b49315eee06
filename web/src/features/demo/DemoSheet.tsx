import { useEffect, useState } from 'react';
import type { CardAnswer } from '../../api/types';
import { t } from '../../texts';
import { Sheet } from '../../ui/Dialog';

interface RunTruth {
  label: string;
  isHealthy: boolean;
  note: string | null;
}

const works: [string, string | undefined][] = [
  ['re-crimp', 'near'],
  ['re-crimp', 'far'],
  ['re-punch', 'near'],
  ['re-punch', 'far'],
  ['cord-replaced', undefined],
  ['cable-replaced', undefined],
];
const moods = ['Normal', 'Silent', 'Nonsense', 'OtherRun'];

async function call<T>(path: string, body?: unknown): Promise<T> {
  const response = await fetch(
    `/api/demo/${path}`,
    body ? { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) } : undefined,
  );
  const answer = await response.json();
  if (!response.ok) throw new Error((answer as { detail?: string }).detail ?? 'no answer');
  return answer as T;
}

/** The demo's hidden truth: work done here changes what the tester reads next. */
export function DemoSheet({ answer, onClose }: { answer: CardAnswer; onClose: () => void }) {
  const run = answer.place.runs[0];
  const [truth, setTruth] = useState<RunTruth>();
  const [mood, setMood] = useState<string>();
  const [trouble, setTrouble] = useState<string>();
  const ask = <T,>(what: Promise<T>, then: (value: T) => void) => what.then(then).catch((e: Error) => setTrouble(e.message));
  useEffect(() => {
    if (run) void ask(call<RunTruth>(`runs/${encodeURIComponent(run.label)}`), setTruth);
    void ask(call<{ mood: string }>('panel'), (p) => setMood(p.mood));
  }, [run]);
  return (
    <Sheet title={t('dialog.demo')} hint={t('dialog.demo-hint')} onClose={onClose}>
      {trouble && <p className="mb-2 text-refused">{trouble}</p>}
      {truth && (
        <p className="mb-3 font-semibold" role="status">
          {truth.isHealthy ? t('dialog.demo-healthy') : t('dialog.demo-still', truth.note ?? '')}
        </p>
      )}
      <div className="grid grid-cols-2 gap-2">
        {works.map(([act, end]) => (
          <button
            key={act + end}
            className="plain"
            onClick={() => void ask(call<RunTruth>(`runs/${encodeURIComponent(run!.label)}/work`, { act, end }), setTruth)}
          >
            {t(`act.${act}`)}
            {end ? `, ${t(`end.${end}`)}` : ''}
          </button>
        ))}
      </div>
      <h3 className="mb-1 mt-4 text-label font-bold">{t('dialog.mood')}</h3>
      <div className="flex flex-wrap gap-2">
        {moods.map((m) => (
          <button
            key={m}
            aria-pressed={mood === m}
            className={`plain ${mood === m ? '!border-2 !border-ink font-bold' : ''}`}
            onClick={() => void ask(call<{ mood: string }>('mood', { mood: m }), (p) => setMood(p.mood))}
          >
            {t(`mood.${m.toLowerCase()}`)}
          </button>
        ))}
      </div>
    </Sheet>
  );
}

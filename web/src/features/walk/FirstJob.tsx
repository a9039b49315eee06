import { useQueryClient } from '@tanstack/react-query';
import { lazy, Suspense, useState } from 'react';
import { v7 } from 'uuid';
import { answered, api } from '../../api/client';
import { troubleOf } from '../../api/send';
import { setIdentity } from '../../session/identity';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';

const Import = lazy(() => import('../jobs/ImportPage').then((m) => ({ default: m.Import })));

/** An empty installation: a job and who works on it, then its schedule as it comes. */
export function FirstJob({ jobId }: { jobId?: string }) {
  const client = useQueryClient();
  const [id] = useState(() => jobId ?? v7());
  const [personId] = useState(() => v7());
  const [name, setName] = useState('');
  const [zone, setZone] = useState(() => Intl.DateTimeFormat().resolvedOptions().timeZone);
  const [person, setPerson] = useState('');
  const [trouble, setTrouble] = useState<string>();
  const [busy, setBusy] = useState(false);
  if (jobId)
    return (
      <Suspense fallback={<p className="p-6 text-ink-2">{t('ui.loading')}</p>}>
        <Import jobId={jobId} />
      </Suspense>
    );
  const make = async () => {
    setBusy(true);
    setTrouble(undefined);
    try {
      await answered(api.POST('/api/jobs', { body: { id, name, timeZone: zone, rule: 'guarded', scheme: 't568B' } }));
      await answered(
        api.POST('/api/jobs/{jobId}/people', {
          params: { path: { jobId: id } },
          body: { id: personId, name: person, role: 'technician', mayWitness: false },
        }),
      );
      // Who makes the job is who holds this device.
      setIdentity({ personId });
      await client.invalidateQueries();
    } catch (error) {
      setTrouble(troubleOf(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <main className="mx-auto w-full max-w-2xl overflow-y-auto p-6">
      <h1 className="text-title font-bold">{t('first.title')}</h1>
      <p className="mb-5 mt-1 text-ink-2">{t('first.hint')}</p>
      <Labelled label={t('first.name')}>
        <input className="field" value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
      </Labelled>
      <Labelled label={t('first.zone')}>
        <input className="field" value={zone} maxLength={60} onChange={(e) => setZone(e.target.value)} />
      </Labelled>
      <Labelled label={t('first.person')}>
        <input className="field" value={person} maxLength={80} onChange={(e) => setPerson(e.target.value)} />
      </Labelled>
      {trouble && (
        <p role="alert" className="mb-3 font-semibold text-refused">
          {trouble}
        </p>
      )}
      <button className="forward disabled:opacity-50" disabled={busy || !name.trim() || !person.trim()} onClick={() => void make()}>
        {t(busy ? 'ui.loading' : 'first.go')}
      </button>
    </main>
  );
}

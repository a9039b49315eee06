import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { asProblem } from '../../api/client';
import type { Problem } from '../../api/types';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';

interface Row {
  row: number;
  column: string;
  what: string;
  mend: string;
}

async function post<T>(path: string, body: BodyInit, type: string): Promise<T> {
  const response = await fetch(path, { method: 'POST', headers: { 'content-type': type }, body });
  const answer = await response.json().catch(() => null);
  if (!response.ok) throw asProblem(answer, response.status);
  return answer as T;
}

/** An empty installation: a job, who works on it, and its schedule, taken whole or refused whole with every bad cell. */
export function FirstJob({ jobId }: { jobId?: string }) {
  const client = useQueryClient();
  const [id] = useState(() => jobId ?? v7());
  const [name, setName] = useState('');
  const [zone, setZone] = useState(() => Intl.DateTimeFormat().resolvedOptions().timeZone);
  const [person, setPerson] = useState('');
  const [file, setFile] = useState<File>();
  const [problem, setProblem] = useState<Problem & { rows?: Row[] }>();
  // The job stays when its schedule is refused: the next try only takes the file.
  const [made, setMade] = useState(!!jobId);
  const [busy, setBusy] = useState(false);
  const take = async () => {
    setBusy(true);
    setProblem(undefined);
    try {
      if (!made) {
        await post('/api/jobs', JSON.stringify({ id, name, timeZone: zone, rule: 'guarded', scheme: 't568B' }), 'application/json');
        await post(`/api/jobs/${id}/people`, JSON.stringify({ id: v7(), name: person, role: 'technician' }), 'application/json');
        setMade(true);
      }
      await post(`/api/jobs/${id}/schedule`, file!, 'text/csv');
      await client.invalidateQueries();
    } catch (error) {
      setProblem(error && typeof error === 'object' && 'detail' in error ? (error as Problem) : { title: '', detail: t('ui.failed'), status: 0 });
    } finally {
      setBusy(false);
    }
  };
  const ready = file && !busy && (made || (name.trim() && person.trim()));
  return (
    <main className="mx-auto w-full max-w-2xl overflow-y-auto p-6">
      <h1 className="text-title font-bold">{t('first.title')}</h1>
      <p className="mb-5 mt-1 text-ink-2">{t('first.hint')}</p>
      {!made && (
        <>
          <Labelled label={t('first.name')}>
            <input className="field" value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
          </Labelled>
          <Labelled label={t('first.zone')}>
            <input className="field" value={zone} maxLength={60} onChange={(e) => setZone(e.target.value)} />
          </Labelled>
          <Labelled label={t('first.person')}>
            <input className="field" value={person} maxLength={80} onChange={(e) => setPerson(e.target.value)} />
          </Labelled>
        </>
      )}
      <Labelled label={t('first.file')}>
        <input className="field" type="file" accept=".csv,text/csv" onChange={(e) => setFile(e.target.files?.[0])} />
      </Labelled>
      <button className="forward disabled:opacity-50" disabled={!ready} onClick={() => void take()}>
        {t(busy ? 'ui.loading' : 'first.take')}
      </button>
      {problem && (
        <div role="alert" className="mt-5">
          <p className="font-bold text-refused">{problem.detail}</p>
          {problem.rows && (
            <table className="mt-2 w-full text-label">
              <thead>
                <tr className="border-b border-ink text-left">
                  <th className="py-1 pr-3">{t('first.row')}</th>
                  <th className="pr-3">{t('first.column')}</th>
                  <th className="pr-3">{t('first.what')}</th>
                  <th>{t('first.mend')}</th>
                </tr>
              </thead>
              <tbody>
                {problem.rows.slice(0, 200).map((r, i) => (
                  <tr key={i} className="border-b border-hairline align-top">
                    <td className="font-read py-1 pr-3">{r.row}</td>
                    <td className="font-read pr-3">{r.column}</td>
                    <td className="pr-3">{r.what}</td>
                    <td>{r.mend}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </div>
      )}
    </main>
  );
}

import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { answered, api } from '../../api/client';
import { useKit } from '../../api/queries';
import { sendFile, troubleOf } from '../../api/send';
import type { IntakeAnswer, WorkAnswer } from '../../api/types';
import { setIdentity, useIdentity } from '../../session/identity';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import { Progress } from '../../ui/Progress';
import { Waiting } from '../walk/WalkPage';
import { Proposal } from './Proposal';
import '../cards/cardTexts';
import '../pageTexts';
import { Trouble } from '../../ui/Trouble';

/**
 * Readings by the hundred: an area read over tester and switch, or an instrument's file. They are shown first; what is taken is taken
 * whole.
 */
export default function ReadingsPage() {
  const { job, walk } = useJob();
  const kit = useKit(job?.id);
  const me = useIdentity();
  const client = useQueryClient();
  const [work, setWork] = useState<WorkAnswer>();
  const [draft, setDraft] = useState<IntakeAnswer>();
  const [trouble, setTrouble] = useState<string>();
  const [area, setArea] = useState('');
  const [dark, setDark] = useState(false);
  const [onlyDue, setOnlyDue] = useState(true);
  useEffect(() => {
    if (!work || work.state !== 'running') return;
    const timer = setInterval(() => {
      answered(api.GET('/api/progress/{id}', { params: { path: { id: work.id } } }))
        .then((next) => {
          setWork(next);
          if (next.state === 'done' && next.results) setDraft(next.results);
          if (next.state === 'failed') setTrouble(next.why ?? t('ui.failed'));
        })
        .catch((error: unknown) => setTrouble(troubleOf(error)));
    }, 300);
    return () => clearInterval(timer);
  }, [work]);
  if (!job || !walk.data) return <Waiting error={walk.error} again={() => void walk.refetch()} />;
  const begin = (call: Promise<WorkAnswer>) => {
    setTrouble(undefined);
    setDraft(undefined);
    call.then(setWork).catch((error: unknown) => setTrouble(troubleOf(error)));
  };
  const sweep = () =>
    begin(
      answered(
        api.POST('/api/jobs/{jobId}/results/sweep', {
          params: { path: { jobId: job.id } },
          body: {
            area: area || null,
            cabinet: null,
            under: dark ? 'infraredOn' : 'infraredOff',
            onlyDue,
            instrumentId: me.instrumentId ?? null,
          },
        }),
      ),
    );
  const bring = (file: File) =>
    begin(
      sendFile<WorkAnswer>(
        `/api/jobs/${job.id}/results/file?name=${encodeURIComponent(file.name)}${me.instrumentId ? `&instrumentId=${me.instrumentId}` : ''}`,
        file,
      ),
    );
  const running = work?.state === 'running';
  const instruments = kit.data?.instruments.filter((i) => !i.retired) ?? [];
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-10 pt-4 max-sm:px-4">
      <h1 className="text-title font-bold">{t('readings.title')}</h1>
      <p className="max-w-2xl text-label text-ink-2">{t('readings.hint')}</p>
      <div className="mt-3 grid grid-cols-2 gap-x-12 border-t border-ink pt-3 max-[1023px]:grid-cols-1">
        <section aria-label={t('readings.sweep')}>
          <h2 className="text-lead font-bold">{t('readings.sweep')}</h2>
          <div className="mt-2 grid grid-cols-2 gap-x-4 max-sm:grid-cols-1">
            <Labelled label={t('readings.area')}>
              <select className="field" value={area} onChange={(e) => setArea(e.target.value)}>
                <option value="">{t('readings.all-areas')}</option>
                {walk.data.areas.map((a) => (
                  <option key={a.name} value={a.name}>
                    {a.name}
                  </option>
                ))}
              </select>
            </Labelled>
            <Labelled label={t('ui.instrument')}>
              <select
                className="field"
                value={me.instrumentId ?? ''}
                onChange={(e) => setIdentity({ instrumentId: e.target.value || undefined })}
              >
                <option value="">{t('readings.no-instrument')}</option>
                {instruments.map((i) => (
                  <option key={i.id} value={i.id}>
                    {i.name}
                  </option>
                ))}
              </select>
            </Labelled>
          </div>
          <label className="flex min-h-11 items-center gap-3">
            <input type="checkbox" className="h-5 w-5 accent-ink" checked={onlyDue} onChange={(e) => setOnlyDue(e.target.checked)} />
            {t('readings.only-due')}
          </label>
          <label className="flex min-h-11 items-center gap-3">
            <input type="checkbox" className="h-5 w-5 accent-ink" checked={dark} onChange={(e) => setDark(e.target.checked)} />
            {t('readings.dark')}
          </label>
          <p className="text-label text-noted">{t('caution.one-feed')}</p>
          <button className="forward mt-2 disabled:opacity-40" disabled={running} onClick={sweep}>
            {t('readings.read')}
          </button>
        </section>
        <section
          aria-label={t('readings.file')}
          className="max-[1023px]:mt-5 max-[1023px]:border-t max-[1023px]:border-hairline max-[1023px]:pt-3"
        >
          <h2 className="text-lead font-bold">{t('readings.file')}</h2>
          <p className="mt-1 max-w-lg text-label text-ink-2">{t('readings.file-hint')}</p>
          <label className="plain mt-3 inline-flex cursor-pointer items-center">
            {t('readings.choose')}
            <input
              type="file"
              className="sr-only"
              accept=".csv,.txt,.tsv,.xlsx,.json"
              disabled={running}
              onChange={(e) => {
                const file = e.target.files?.[0];
                e.target.value = '';
                if (file) bring(file);
              }}
            />
          </label>
        </section>
      </div>
      <Trouble text={trouble} className="mt-4" />
      {running && <Progress work={work} what={t(work.kind === 'sweep' ? 'readings.reading' : 'readings.matching')} />}
      {work?.state === 'cancelled' && <p className="mt-3 font-semibold">{t('readings.stopped')}</p>}
      {draft && !running && (
        <Proposal
          key={draft.id}
          jobId={job.id}
          draft={draft}
          onChange={setDraft}
          onTaken={async (next) => {
            setDraft(next);
            await Promise.all([client.invalidateQueries({ queryKey: ['card'] }), client.invalidateQueries({ queryKey: ['walk'] })]);
          }}
        />
      )}
    </main>
  );
}

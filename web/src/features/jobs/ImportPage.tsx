import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useRegister } from '../../api/queries';
import { sendFile, troubleOf } from '../../api/send';
import type { ImportAnswer } from '../../api/types';
import { useMay } from '../../session/access';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { Waiting } from '../walk/WalkPage';
import { AddDevice } from '../register/AddDevice';
import { Mapping } from './Mapping';
import '../cards/cardTexts';
import '../pageTexts';

/** A schedule as it comes: the file, what its columns are, what it does, and then all of it or nothing. */
export default function ImportPage() {
  const { job, jobs } = useJob();
  if (!job) return <Waiting error={jobs.error} again={() => void jobs.refetch()} />;
  return <Import jobId={job.id} />;
}

export function Import({ jobId }: { jobId: string }) {
  const [file, setFile] = useState<ImportAnswer>();
  const [adding, setAdding] = useState(false);
  const mayAdd = useMay('register');
  const register = useRegister(jobId);
  const upload = useMutation({
    mutationFn: (chosen: File) => sendFile<ImportAnswer>(`/api/jobs/${jobId}/imports?name=${encodeURIComponent(chosen.name)}`, chosen),
    onSuccess: setFile,
  });
  return (
    <main className="min-h-0 flex-1 overflow-y-auto p-6 max-sm:p-4">
      <h1 className="text-title font-bold">{t('import.title')}</h1>
      <p className="mt-1 max-w-3xl text-ink-2">{t('import.hint')}</p>
      {!file && (
        <div
          className="mt-5 max-w-3xl border border-dashed border-rule p-6"
          onDragOver={(e) => e.preventDefault()}
          onDrop={(e) => {
            e.preventDefault();
            const dropped = e.dataTransfer.files[0];
            if (dropped) upload.mutate(dropped);
          }}
        >
          <label className="text-label font-semibold text-ink-2" htmlFor="schedule-file">
            {t('import.choose')}
          </label>
          <input
            id="schedule-file"
            type="file"
            accept=".csv,.tsv,.txt,.xlsx"
            className="field mt-1"
            disabled={upload.isPending}
            onChange={(e) => {
              const chosen = e.target.files?.[0];
              e.target.value = '';
              if (chosen) upload.mutate(chosen);
            }}
          />
          {upload.isPending && (
            <p className="mt-3" role="status">
              {t('import.reading')}
            </p>
          )}
          {upload.error && (
            <p className="mt-3 font-semibold text-refused" role="alert">
              {troubleOf(upload.error)}
            </p>
          )}
        </div>
      )}
      {!file && mayAdd && (
        <p className="mt-5">
          <button
            className="min-h-11 font-semibold underline disabled:opacity-50"
            disabled={!register.data}
            onClick={() => setAdding(true)}
          >
            {t('import.without')}
          </button>
        </p>
      )}
      {adding && register.data && (
        <AddDevice jobId={jobId} register={register.data} reason={t('import.no-schedule')} onClose={() => setAdding(false)} />
      )}
      {file && <Mapping key={file.id} jobId={jobId} file={file} again={() => setFile(undefined)} />}
    </main>
  );
}

import '../pageTexts';
import { Link } from '@tanstack/react-router';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, api } from '../../api/client';
import { useWork } from '../../api/queries';
import { sendFile, troubleOf } from '../../api/send';
import type { ImportAnswer, OutcomeAnswer, SheetAnswer, SheetMapping } from '../../api/types';
import { identity } from '../../session/identity';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { Progress } from '../../ui/Progress';
import { Waiting } from '../walk/WalkPage';

/** A schedule as it comes: the file, what its columns are, what it does, and then all of it or nothing. */
export default function ImportPage() {
  const { job, jobs } = useJob();
  if (!job) return <Waiting error={jobs.error} again={() => void jobs.refetch()} />;
  return <Import jobId={job.id} />;
}

export function Import({ jobId }: { jobId: string }) {
  const [file, setFile] = useState<ImportAnswer>();
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
      {file && <Mapping key={file.id} jobId={jobId} file={file} again={() => setFile(undefined)} />}
    </main>
  );
}

function Mapping({ jobId, file, again }: { jobId: string; file: ImportAnswer; again: () => void }) {
  const client = useQueryClient();
  // The largest sheet is most likely the schedule; one that the workbook hides is none, as long as there is another.
  const [index, setIndex] = useState(() => file.sheets.reduce((best, s, i) => (weight(s) > weight(file.sheets[best]!) ? i : best), 0));
  const sheet = file.sheets[index]!;
  const [mapping, setMapping] = useState<SheetMapping>(sheet.proposed);
  const [outcome, setOutcome] = useState<OutcomeAnswer>();
  const [workId, setWorkId] = useState<string>();
  const change = (next: Partial<SheetMapping>) => {
    setMapping({ ...mapping, ...next });
    setOutcome(undefined);
  };
  const path = { jobId, importId: file.id };
  /** Rows that are left out, or taken all the same: looked at again at once, so that the list stays in sight. */
  const rowsChanged = (next: SheetMapping) => {
    setMapping(next);
    return next;
  };
  const look = useMutation({
    mutationFn: (as: SheetMapping) =>
      answered(api.POST('/api/jobs/{jobId}/imports/{importId}/preview', { params: { path }, body: { sheet: index, mapping: as } })),
    onSuccess: setOutcome,
  });
  const take = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/jobs/{jobId}/imports/{importId}/take', {
          params: { path },
          body: { sheet: index, mapping, basis: outcome!.basis, by: identity().personId ?? null },
        }),
      ),
    onSuccess: (work) => setWorkId(work.id),
  });
  const work = useWork(workId);
  const done = work.data?.state === 'done' ? (work.data.outcome ?? undefined) : undefined;
  if (workId && work.data && work.data.state !== 'running') {
    if (done && done.problemCount === 0) {
      void client.invalidateQueries({ queryKey: ['walk'] });
      void client.invalidateQueries({ queryKey: ['register'] });
      return (
        <section className="mt-6" role="status">
          <p className="text-lead font-bold">{t('import.done', done.added, done.changed)}</p>
          <Findings outcome={done} />
          <div className="mt-4 flex gap-3">
            <Link to="/" className="forward inline-flex items-center">
              {t('import.to-walk')}
            </Link>
            <button className="plain" onClick={again}>
              {t('import.again')}
            </button>
          </div>
        </section>
      );
    }
    return (
      <section className="mt-6" role="alert">
        <p className="font-bold text-refused">{work.data.state === 'cancelled' ? t('import.cancelled') : (work.data.why ?? t('ui.failed'))}</p>
        <button
          className="plain mt-3"
          onClick={() => {
            setWorkId(undefined);
            look.mutate(mapping);
          }}
        >
          {t('import.look')}
        </button>
      </section>
    );
  }
  if (workId) return <Progress work={work.data} what={t('import.taking')} />;
  const selected = 'field !min-h-9 !w-auto !py-1 text-label';
  const kindColumn = mapping.columns.find((c) => c.field === 'kind' && !c.ignored);
  return (
    <div className="mt-5">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2 border-t border-ink pt-3 text-label">
        <p className="font-read text-body font-bold">{file.fileName}</p>
        {file.sheets.length > 1 && (
          <label>
            {t('import.sheet')}{' '}
            <select
              className={selected}
              value={index}
              onChange={(e) => {
                const i = Number(e.target.value);
                setIndex(i);
                change(file.sheets[i]!.proposed);
              }}
            >
              {file.sheets.map((s, i) => (
                <option key={i} value={i}>
                  {`${s.hidden ? t('import.hidden-sheet', s.name) : s.name}, ${t('import.rows', s.rows)}`}
                </option>
              ))}
            </select>
          </label>
        )}
        <label>
          {t('import.header')}{' '}
          <input
            type="number"
            min={1}
            max={40}
            className={`${selected} !w-20`}
            value={mapping.headerRow + 1}
            onChange={(e) => {
              const row = Math.max(0, Number(e.target.value) - 1);
              const cells = sheet.sample[row] ?? [];
              change({
                headerRow: row,
                columns: mapping.columns.map((c) => ({ ...c, heading: cells[c.column] || c.heading })),
              });
            }}
          />
        </label>
        <label>
          {t('import.decimal')}{' '}
          <select className={selected} value={mapping.sign} onChange={(e) => change({ sign: e.target.value as SheetMapping['sign'] })}>
            {(['unknown', 'point', 'comma'] as const).map((s) => (
              <option key={s} value={s}>
                {t(`import.sign.${s}`)}
              </option>
            ))}
          </select>
        </label>
        <button className="min-h-9 font-semibold underline" onClick={again}>
          {t('import.again')}
        </button>
      </div>
      <div className="mt-4 grid gap-8 min-[1100px]:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
        <section>
          <h2 className="text-body font-bold">{t('import.columns')}</h2>
          <div className="max-h-[52dvh] overflow-auto border-y border-ink" tabIndex={0} role="region" aria-label={t('import.columns')}>
            <table className="w-full text-label">
              <thead className="sticky top-0 bg-paper">
                <tr className="text-left text-ink-2">
                  <th className="py-1 pr-3 font-semibold">{t('import.heading')}</th>
                  <th className="pr-3 font-semibold">{t('import.taken-as')}</th>
                  <th className="font-semibold">{t('import.first-values')}</th>
                </tr>
              </thead>
              <tbody>
                {mapping.columns.map((c) => (
                  <tr key={c.column} className="border-t border-hairline">
                    <td className="max-w-48 truncate py-0.5 pr-3 font-bold">{c.heading}</td>
                    <td className="pr-3">
                      <select
                        aria-label={c.heading}
                        className={`${selected} ${c.field && !c.ignored ? 'font-bold' : 'text-ink-2'}`}
                        value={c.ignored ? '-' : (c.field ?? '')}
                        onChange={(e) =>
                          change({
                            columns: mapping.columns.map((x) =>
                              x.column === c.column
                                ? { ...x, ignored: e.target.value === '-', field: e.target.value === '-' || !e.target.value ? null : e.target.value }
                                : x,
                            ),
                          })
                        }
                      >
                        <option value="">{t('import.note')}</option>
                        <option value="-">{t('import.leave-out')}</option>
                        {file.fields.map((f) => (
                          <option key={f.id} value={f.id}>
                            {t(`field.${f.id}`)}
                          </option>
                        ))}
                      </select>
                    </td>
                    <td className="max-w-56 truncate font-read text-ink-2">
                      {sheet.sample
                        .slice(mapping.headerRow + 1, mapping.headerRow + 5)
                        .map((r) => r[c.column])
                        .filter(Boolean)
                        .join(', ')}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </section>
        <section>
          {kindColumn && sheet.kindWords.length > 0 && (
            <>
              <h2 className="text-body font-bold">{t('import.kinds')}</h2>
              <p className="text-label text-ink-2">{t('import.kinds-hint')}</p>
              <ul className="mb-4 max-h-56 overflow-y-auto border-y border-hairline">
                {sheet.kindWords.map((w) => {
                  const kind = mapping.kinds[w.word] ?? w.kind;
                  return (
                    <li key={w.word} className="flex items-center gap-2 border-b border-hairline py-0.5 text-label last:border-0">
                      <span className="min-w-0 flex-1 truncate font-bold">{w.word}</span>
                      <span className="font-read text-ink-2">{t('import.times', w.times)}</span>
                      <select
                        aria-label={w.word}
                        className={`${selected} ${kind ? '' : '!border-2 !border-refused'}`}
                        value={kind ?? ''}
                        onChange={(e) => change({ kinds: { ...mapping.kinds, [w.word]: e.target.value } })}
                      >
                        <option value="">{t('import.not-known')}</option>
                        <Kinds kinds={file.kinds} />
                      </select>
                    </li>
                  );
                })}
              </ul>
            </>
          )}
          <h2 className="text-body font-bold">{t('import.defaults')}</h2>
          <div className="mb-3 flex flex-wrap gap-3 text-label">
            {(['area', 'kind', 'length_m'] as const).map((f) => (
              <label key={f}>
                {t(`field.${f}`)}{' '}
                {f === 'kind' ? (
                  <select
                    className={selected}
                    value={mapping.defaults.kind ?? ''}
                    onChange={(e) => change({ defaults: { ...mapping.defaults, kind: e.target.value } })}
                  >
                    <option value="">{t('import.nothing')}</option>
                    <Kinds kinds={file.kinds} />
                  </select>
                ) : (
                  <input
                    className={`${selected} !w-28`}
                    value={mapping.defaults[f] ?? ''}
                    onChange={(e) => {
                      const rest = { ...mapping.defaults };
                      if (e.target.value) rest[f] = e.target.value;
                      else delete rest[f];
                      change({ defaults: rest });
                    }}
                  />
                )}
              </label>
            ))}
          </div>
          <label className="mb-4 flex min-h-9 items-center gap-2 text-label">
            <input
              type="checkbox"
              className="h-5 w-5 accent-ink"
              checked={mapping.addMissing}
              onChange={(e) => change({ addMissing: e.target.checked })}
            />
            {t('import.missing')}
          </label>
          {!outcome && (
            <button className="forward w-full text-center" disabled={look.isPending} onClick={() => look.mutate(mapping)}>
              {t(look.isPending ? 'import.looking' : 'import.look')}
            </button>
          )}
          {outcome && (
            <div role="status">
              <dl className="grid grid-cols-[auto_1fr] gap-x-3 text-body">
                {(
                  [
                    [outcome.added, 'import.added'],
                    [outcome.changed, 'import.changed'],
                    [outcome.same, 'import.same'],
                    [outcome.notInFile, 'import.not-in-file'],
                    [outcome.problemCount, 'import.refused'],
                  ] as const
                ).map(([n, what]) => (
                  <div key={what} className={`contents ${what === 'import.refused' && n > 0 ? 'font-bold text-refused' : ''}`}>
                    <dt className="text-right font-read font-bold">{n}</dt>
                    <dd>{t(what)}</dd>
                  </div>
                ))}
              </dl>
              {outcome.problemCount === 0 && (
                <button
                  className="forward mt-3 w-full text-center disabled:opacity-50"
                  disabled={take.isPending || outcome.added + outcome.changed + outcome.created.length === 0}
                  onClick={() => take.mutate()}
                >
                  {t('import.take')}
                </button>
              )}
            </div>
          )}
          {(look.error || take.error) && (
            <p className="mt-3 font-semibold text-refused" role="alert">
              {troubleOf(look.error ?? take.error)}
            </p>
          )}
        </section>
      </div>
      {outcome && (
        <Outcome outcome={outcome} mapping={mapping} busy={look.isPending} onRows={(next) => look.mutate(rowsChanged({ ...mapping, ...next }))} />
      )}
    </div>
  );
}

/** How likely a sheet is the schedule; hidden ones come last. */
const weight = (s: SheetAnswer) => s.proposed.columns.filter((c) => c.field).length * s.rows - (s.hidden ? 1e9 : 0);

function Kinds({ kinds }: { kinds: string[] }) {
  return ['cabinet', ...kinds].map((k) => (
    <option key={k} value={k}>
      {k === 'cabinet' ? t('walk.cabinet') : t(`kind.${k}`)}
    </option>
  ));
}

function Findings({ outcome }: { outcome: OutcomeAnswer }) {
  if (outcome.findings.length === 0) return null;
  return (
    <>
      <h2 className="mt-6 text-body font-bold">{t('import.findings')}</h2>
      <ul className="max-w-4xl border-t border-hairline">
        {outcome.findings.map((f, i) => (
          <li key={i} className="border-b border-hairline py-1.5">
            {f.what}
          </li>
        ))}
      </ul>
    </>
  );
}

function Outcome({
  outcome,
  mapping,
  busy,
  onRows,
}: {
  outcome: OutcomeAnswer;
  mapping: SheetMapping;
  busy: boolean;
  onRows: (next: Partial<SheetMapping>) => void;
}) {
  const leftOut = mapping.leftOut ?? [];
  const anyway = mapping.takenAnyway ?? [];
  const leaveOut = (rows: number[]) => onRows({ leftOut: [...new Set([...leftOut, ...rows])] });
  const takeAnyway = (rows: number[]) => onRows({ takenAnyway: [...new Set([...anyway, ...rows])] });
  const odd = [...new Set(outcome.problems.filter((p) => p.mayTake).map((p) => p.row))];
  const choice = 'px-1 py-1 font-semibold underline disabled:opacity-40 max-sm:min-h-11';
  return (
    <section className="mt-6 border-t border-ink pt-3">
      {odd.length > 1 && (
        <p className="mb-2 flex flex-wrap items-baseline gap-x-4">
          <b>{t('import.odd', odd.length)}</b>
          <button className={choice} disabled={busy} onClick={() => leaveOut(odd)}>
            {t('import.odd-leave')}
          </button>
          <button className={choice} disabled={busy} onClick={() => takeAnyway(odd)}>
            {t('import.odd-take')}
          </button>
        </p>
      )}
      {outcome.created.length > 0 && <p className="mb-2">{t('import.created', outcome.created.join(', '))}</p>}
      {outcome.problems.length > 0 && (
        <>
          <p className="mb-2 font-semibold text-refused">{t('import.refused-hint')}</p>
          <table className="w-full text-label">
            <thead>
              <tr className="border-b border-ink text-left">
                {['first.row', 'first.column', 'first.what', 'first.mend'].map((h) => (
                  <th key={h} className="py-1 pr-3">
                    {t(h)}
                  </th>
                ))}
                <th className="sr-only">{t('import.leave')}</th>
              </tr>
            </thead>
            <tbody>
              {outcome.problems.slice(0, 300).map((p, i) => (
                <tr key={i} className="border-b border-hairline align-top">
                  <td className="font-read py-1 pr-3">{p.row || ''}</td>
                  <td className="pr-3">{p.column && t(`field.${p.column}`)}</td>
                  <td className="pr-3">{p.what}</td>
                  <td>{p.mend}</td>
                  <td className="whitespace-nowrap text-right">
                    {p.mayTake && (
                      <button className={choice} disabled={busy} onClick={() => takeAnyway([p.row])}>
                        {t('import.take-anyway')}
                      </button>
                    )}
                    {p.row > mapping.headerRow + 1 && (
                      <button className={choice} disabled={busy} aria-label={t('import.leave-row', p.row)} onClick={() => leaveOut([p.row])}>
                        {t('import.leave')}
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      {outcome.problems.length === 0 && outcome.devices.some((d) => d.changes.length > 0) && (
        <>
          <h2 className="text-body font-bold">{t('import.changes')}</h2>
          <ul className="max-w-4xl">
            {outcome.devices
              .filter((d) => d.changes.length > 0)
              .slice(0, 200)
              .map((d) => (
                <li key={d.label} className="border-b border-hairline py-1 text-label">
                  <span className="font-read font-bold">{d.label}</span> <span className="text-ink-3">{t('import.row', d.row)}</span>{' '}
                  {d.changes
                    .map((c) => `${t(`field.${c.field}`)} ${c.from ?? t('import.nothing')} > ${c.to}${c.kept ? ` (${t('import.kept')})` : ''}`)
                    .join(', ')}
                </li>
              ))}
          </ul>
        </>
      )}
      {outcome.passed.length > 0 && (
        <details className="mt-4 max-w-4xl text-label" open={outcome.passed.length <= 12}>
          <summary className="min-h-9 font-bold">{t('import.passed', outcome.passed.length)}</summary>
          <ul>
            {outcome.passed.map((p) => (
              <li key={p.row} className="flex items-baseline gap-x-3 border-b border-hairline py-0.5">
                <span className="font-read w-20 shrink-0 text-ink-2">{t('import.row', p.row)}</span>
                <span className="min-w-0 flex-1 truncate">{p.text}</span>
                <span className="text-ink-2">{p.why}</span>
                {leftOut.includes(p.row) && (
                  <button className={choice} disabled={busy} onClick={() => onRows({ leftOut: leftOut.filter((r) => r !== p.row) })}>
                    {t('import.put-back')}
                  </button>
                )}
              </li>
            ))}
          </ul>
        </details>
      )}
      <Findings outcome={outcome} />
    </section>
  );
}

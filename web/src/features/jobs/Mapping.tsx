import { Link } from '@tanstack/react-router';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, api } from '../../api/client';
import { useWork } from '../../api/queries';
import { troubleOf } from '../../api/send';
import type { ImportAnswer, OutcomeAnswer, SheetAnswer, SheetMapping } from '../../api/types';
import { identity } from '../../session/identity';
import { t } from '../../texts';
import { Progress } from '../../ui/Progress';
import { Outcome } from './Outcome';
import { Findings } from './ImportFindings';
import { LeaveGuard } from '../../ui/LeaveGuard';

export function Mapping({ jobId, file, again }: { jobId: string; file: ImportAnswer; again: () => void }) {
  const client = useQueryClient();
  // The largest sheet is most likely the schedule; one that the workbook hides is none, as long as there is another.
  const [index, setIndex] = useState(() => file.sheets.reduce((best, s, i) => (weight(s) > weight(file.sheets[best]) ? i : best), 0));
  const sheet = file.sheets[index];
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
        <p className="font-bold text-refused">
          {work.data.state === 'cancelled' ? t('import.cancelled') : (work.data.why ?? t('ui.failed'))}
        </p>
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
      <LeaveGuard when={!workId && JSON.stringify(mapping) !== JSON.stringify(sheet.proposed)} />
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
                change(file.sheets[i].proposed);
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
      <div className="mt-4 grid grid-cols-1 gap-8 min-[1100px]:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
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
                                ? {
                                    ...x,
                                    ignored: e.target.value === '-',
                                    field: e.target.value === '-' || !e.target.value ? null : e.target.value,
                                  }
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
            {(['area', 'kind', 'cabinet', 'length_m'] as const).map((f) => (
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
          {mapping.columns.some((c) => c.field === 'switch') &&
            !mapping.columns.some((c) => c.field === 'cabinet') &&
            !mapping.defaults.cabinet && <p className="mb-2 text-label text-ink-2">{t('import.switch-alone')}</p>}
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
        <Outcome
          outcome={outcome}
          mapping={mapping}
          busy={look.isPending}
          onRows={(next) => look.mutate(rowsChanged({ ...mapping, ...next }))}
        />
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

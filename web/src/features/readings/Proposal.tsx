import { Link } from '@tanstack/react-router';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, api } from '../../api/client';
import { useKit } from '../../api/queries';
import { entry, troubleOf } from '../../api/send';
import type { IntakeAnswer, IntakeFate, IntakeLine } from '../../api/types';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { StateMark } from '../../ui/Marks';
import { Trouble } from '../../ui/Trouble';

const fates: IntakeFate[] = ['out', 'tooClose', 'notJudged', 'unmatched', 'refused', 'in', 'known'];

const takeable: IntakeFate[] = ['in', 'tooClose', 'out', 'notJudged'];

export function Proposal({
  jobId,
  draft,
  onChange,
  onTaken,
}: {
  jobId: string;
  draft: IntakeAnswer;
  onChange: (d: IntakeAnswer) => void;
  onTaken: (d: IntakeAnswer) => Promise<void>;
}) {
  const { walk } = useJob();
  const kit = useKit(jobId);
  const count = (f: IntakeFate) => draft.counts[f] ?? 0;
  const [chosen, setChosen] = useState<IntakeFate[]>(takeable);
  const [open, setOpen] = useState<IntakeFate | undefined>(() => fates.find((f) => count(f) > 0));
  const [assigned, setAssigned] = useState<Record<string, string>>({});
  const stops = walk.data?.areas.flatMap((a) => a.stops) ?? [];
  const take = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/jobs/{jobId}/results/{draftId}/take', {
          params: { path: { jobId, draftId: draft.id } },
          body: { ...entry(), fates: chosen },
        }),
      ),
    onSuccess: onTaken,
  });
  const assign = useMutation({
    mutationFn: (body: { labels: Record<string, string | null>; instrumentId: string | null }) =>
      answered(api.POST('/api/jobs/{jobId}/results/{draftId}/assign', { params: { path: { jobId, draftId: draft.id } }, body })),
    onSuccess: onChange,
  });
  const number = takeable.filter((f) => chosen.includes(f)).reduce((n, f) => n + count(f), 0);
  const lines = draft.lines.filter((l) => l.fate === open);
  return (
    <section className="mt-5 border-t border-ink pt-3" aria-label={t('readings.proposal')}>
      <div className="flex flex-wrap items-baseline gap-x-5">
        <h2 className="text-lead font-bold">{t('readings.found', draft.total, draft.devices)}</h2>
        <span className="text-label text-ink-2">{draft.name}</span>
      </div>
      {draft.taken ? (
        <p role="status" className="mt-2 text-body font-bold">
          {t('readings.taken')}{' '}
          <Link to="/" className="underline">
            {t('nav.walk')}
          </Link>
        </p>
      ) : (
        <div className="mt-2 flex flex-wrap items-center gap-x-5 gap-y-2">
          {takeable.map((f) => (
            <label key={f} className="flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                className="h-5 w-5 accent-ink"
                checked={chosen.includes(f)}
                disabled={count(f) === 0}
                onChange={() => setChosen(chosen.includes(f) ? chosen.filter((x) => x !== f) : [...chosen, f])}
              />
              <StateMark state={f as 'in' | 'out' | 'tooClose'} /> {t('readings.n-state', count(f), t(`state.${f}`))}
            </label>
          ))}
          <button className="forward disabled:opacity-40" disabled={number === 0 || take.isPending} onClick={() => take.mutate()}>
            {t('readings.take', number)}
          </button>
        </div>
      )}
      <Trouble text={take.error ? troubleOf(take.error) : undefined} className="mt-2" />
      {!draft.taken && draft.instruments.length > 0 && (
        <div className="mt-3 border-t border-dotted border-hairline pt-2">
          <h3 className="text-body font-bold">{t('readings.instruments')}</h3>
          {draft.instruments.map((i) => (
            <p key={i.serial} className="flex flex-wrap items-center gap-3 text-label">
              <span className="font-read">{i.serial}</span> {t('readings.n-results', i.results)}
              <select
                className="field !w-auto"
                defaultValue=""
                aria-label={t('ui.instrument')}
                onChange={(e) => e.target.value && assign.mutate({ labels: {}, instrumentId: e.target.value })}
              >
                <option value="">{t('readings.which-instrument')}</option>
                {kit.data?.instruments.map((k) => (
                  <option key={k.id} value={k.id}>
                    {k.name} {k.serial}
                  </option>
                ))}
              </select>
            </p>
          ))}
        </div>
      )}
      {!draft.taken && draft.unmatched.length > 0 && (
        <div className="mt-3 border-t border-dotted border-hairline pt-2">
          <h3 className="text-body font-bold">{t('readings.unmatched', draft.unmatched.length)}</h3>
          <p className="text-label text-ink-2">{t('readings.unmatched-hint')}</p>
          <ul className="mt-1 grid grid-cols-2 gap-x-8 max-sm:grid-cols-1">
            {draft.unmatched.map((u) => (
              <li key={u.where} className="flex items-center gap-3 border-b border-dotted border-hairline py-1">
                <span className="font-read min-w-24 font-bold">{u.where}</span>
                <span className="text-label text-ink-2">{t('readings.n-results', u.results)}</span>
                <select
                  className="field ml-auto !min-h-9 !w-40 !py-0"
                  aria-label={t('readings.is-of', u.where)}
                  value={assigned[u.where] ?? ''}
                  onChange={(e) => setAssigned({ ...assigned, [u.where]: e.target.value })}
                >
                  <option value="">{t('readings.leave')}</option>
                  {stops.map((s) => (
                    <option key={s.id} value={s.id}>
                      {s.label}
                    </option>
                  ))}
                </select>
              </li>
            ))}
          </ul>
          <button
            className="plain mt-2 disabled:opacity-40"
            disabled={Object.values(assigned).every((x) => !x) || assign.isPending}
            onClick={() =>
              assign.mutate({ labels: Object.fromEntries(Object.entries(assigned).filter(([, id]) => id)), instrumentId: null })
            }
          >
            {t('readings.assign')}
          </button>
        </div>
      )}
      <div className="mt-4 flex flex-wrap gap-x-5 border-b border-ink" role="group" aria-label={t('readings.show')}>
        {fates
          .filter((f) => count(f) > 0)
          .map((f) => (
            <button
              key={f}
              aria-pressed={open === f}
              className={`min-h-11 text-body ${open === f ? 'font-bold' : 'text-ink-2 underline'}`}
              onClick={() => setOpen(f)}
            >
              {t(`fate.${f}`)} <span className="font-read">{count(f)}</span>
            </button>
          ))}
      </div>
      <ul>
        {lines.map((l) => (
          <Line key={l.index} line={l} />
        ))}
      </ul>
      {open && lines.length < count(open) && (
        <p className="py-2 text-label text-ink-2">{t('readings.first-of', lines.length, count(open))}</p>
      )}
    </section>
  );
}

function Line({ line }: { line: IntakeLine }) {
  const state = line.fate === 'in' || line.fate === 'out' || line.fate === 'tooClose' || line.fate === 'notJudged' ? line.fate : undefined;
  return (
    <li className="grid grid-cols-[28px_84px_200px_130px_minmax(0,1fr)] items-center gap-x-3 border-b border-dotted border-hairline py-1 max-sm:grid-cols-[28px_minmax(0,1fr)]">
      {state ? <StateMark state={state} /> : <span />}
      {line.deviceId ? (
        <Link to="/card/$deviceId" params={{ deviceId: line.deviceId }} className="font-read font-bold underline">
          {line.device}
        </Link>
      ) : (
        <span className="font-read truncate">{line.where}</span>
      )}
      <span className="truncate text-table max-sm:col-start-2">
        {line.check ?? line.function}
        <span className="text-label text-ink-2">
          {line.part ? ` ${line.part}` : ''}
          {line.under && line.under !== 'any' ? `, ${t(`condition.${line.under}`)}` : ''}
        </span>
      </span>
      <span
        className={`max-sm:col-start-2 ${line.text.length > 7 && /[a-z]{3}/.test(line.text) ? 'text-label font-semibold leading-tight' : 'font-read truncate text-table font-bold'}`}
      >
        {line.text}
      </span>
      <span className="min-w-0 text-label leading-snug text-ink-2 max-sm:col-start-2">
        {line.line > 0 && `${t('readings.line', line.line)} `}
        {line.wasText && line.was !== 'notTaken' && `${t('readings.was', line.wasText, t(`state.${line.was}`))} `}
        {line.fate !== 'in' && line.limit ? `${line.limit}. ` : ''}
        {line.why.join(' ')}
      </span>
    </li>
  );
}

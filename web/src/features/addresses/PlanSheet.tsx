import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, api, ProblemError } from '../../api/client';
import { sendFile, troubleOf } from '../../api/send';
import { say, t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { Trouble } from '../../ui/Trouble';
import type { NetworkLedger, NetworkPlan, PlanRead } from './ledger';

const empty: NetworkPlan = {
  subnet: '',
  gateway: '',
  poolFirst: '',
  poolLast: '',
  leaseServer: '',
  timeServer: '',
  reserved: [],
  factory: [],
  firstHostOffset: 20,
  gapEvery: 0,
  gapSize: 0,
  tester: '',
};

/** The network as it is planned; what is wrong with a field is said at the field. */
export function PlanSheet({
  jobId,
  plan,
  onKept,
  onClose,
}: {
  jobId: string;
  plan: NetworkPlan | null;
  onKept: (ledger: NetworkLedger) => void;
  onClose: () => void;
}) {
  const [p, setP] = useState(plan ?? empty);
  const [factory, setFactory] = useState((plan?.factory ?? []).join(' '));
  const set = (change: Partial<NetworkPlan>) => setP({ ...p, ...change });
  const keep = useMutation({
    mutationFn: () =>
      answered(
        api.PUT('/api/jobs/{jobId}/network/plan', {
          params: { path: { jobId } },
          body: { plan: { ...p, factory: factory.split(/[\s,;]+/).filter(Boolean) } },
        }),
      ),
    onSuccess: onKept,
  });
  const read = useMutation({
    mutationFn: (file: File) => sendFile<PlanRead>(`/api/jobs/${jobId}/network/plan/file`, file),
    onSuccess: (file) => {
      setP(file.plan);
      setFactory(file.plan.factory.join(' '));
      keep.reset();
    },
  });
  const at = keep.error instanceof ProblemError ? keep.error.problem.field : undefined;
  const wrong = (field: string) =>
    at === field || at?.startsWith(`${field}.`)
      ? troubleOf(keep.error)
      : read.data?.wrong.filter((w) => w.field === field || w.field.startsWith(`${field}.`)).map((w) => say(w.why))[0];
  const text = (
    field: 'subnet' | 'gateway' | 'poolFirst' | 'poolLast' | 'leaseServer' | 'timeServer' | 'tester',
    label: string,
    hint?: string,
  ) => (
    <Labelled label={label}>
      <input
        className="field font-read"
        value={p[field]}
        maxLength={40}
        placeholder={hint}
        aria-invalid={!!wrong(field)}
        onChange={(e) => set({ [field]: e.target.value })}
      />
      <Trouble text={wrong(field)} className="mt-1" />
    </Labelled>
  );
  const number = (field: 'firstHostOffset' | 'gapEvery' | 'gapSize', label: string) => (
    <Labelled label={label}>
      <input
        className="field font-read"
        type="number"
        min={0}
        max={65534}
        value={Number.isNaN(p[field]) ? '' : p[field]}
        aria-invalid={!!wrong(field)}
        onChange={(e) => set({ [field]: e.target.value === '' ? 0 : Math.trunc(Number(e.target.value)) })}
      />
      <Trouble text={wrong(field)} className="mt-1" />
    </Labelled>
  );
  return (
    <Sheet title={t('address.plan.edit')} onClose={onClose} wide>
      <div className="flex flex-wrap items-center gap-x-5">
        <label className="inline-flex min-h-11 cursor-pointer items-center font-semibold underline">
          {t('address.plan.read-file')}
          <input
            type="file"
            className="sr-only"
            accept=".csv,.txt,.tsv,.xlsx"
            onChange={(e) => {
              const file = e.target.files?.[0];
              e.target.value = '';
              if (file) read.mutate(file);
            }}
          />
        </label>
        {plan && (
          <a className="inline-flex min-h-11 items-center font-semibold underline" href={`/api/jobs/${jobId}/network/plan.csv`} download>
            {t('address.plan.save-file')}
          </a>
        )}
        <span className="text-label text-ink-2" role="status">
          {read.data && t('address.plan.from-file')}
        </span>
        <Trouble text={read.error ? troubleOf(read.error) : undefined} />
      </div>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          keep.mutate();
        }}
      >
        <div className="mt-3 grid grid-cols-3 gap-x-4 max-sm:grid-cols-1">
          {text('subnet', t('address.subnet'), '10.46.8.0/24')}
          {text('gateway', t('address.gateway'))}
          {text('tester', t('address.tester'))}
          {text('poolFirst', t('address.pool'))}
          {text('poolLast', t('address.pool-to'))}
          {text('leaseServer', t('address.lease-server'))}
          {text('timeServer', t('address.time-server'))}
          {number('firstHostOffset', t('address.offset'))}
          {number('gapEvery', t('address.gap-every'))}
          {number('gapSize', t('address.gap-size'))}
        </div>
        <Labelled label={`${t('address.factory')} (${t('address.factory-hint')})`}>
          <input className="field font-read" value={factory} maxLength={400} onChange={(e) => setFactory(e.target.value)} />
          <Trouble text={wrong('factory')} className="mt-1" />
        </Labelled>
        {p.reserved.map((r, i) => (
          <div key={i} className="grid grid-cols-[1fr_1fr_1.4fr_auto] items-end gap-x-3 max-sm:grid-cols-2">
            {(['first', 'last', 'for'] as const).map((part) => (
              <Labelled
                key={part}
                label={t(part === 'for' ? 'address.reserved-for' : part === 'last' ? 'address.pool-to' : 'address.reserved')}
              >
                <input
                  className={`field ${part === 'for' ? '' : 'font-read'}`}
                  value={r[part]}
                  maxLength={60}
                  aria-invalid={!!wrong(`reserved.${i}`)}
                  onChange={(e) => set({ reserved: p.reserved.map((x, n) => (n === i ? { ...x, [part]: e.target.value } : x)) })}
                />
              </Labelled>
            ))}
            <button
              type="button"
              className="mb-2 min-h-11 underline"
              onClick={() => set({ reserved: p.reserved.filter((_, n) => n !== i) })}
            >
              {t('address.remove')}
            </button>
            <Trouble text={wrong(`reserved.${i}`)} className="col-span-full mb-1" />
          </div>
        ))}
        <button
          type="button"
          className="min-h-11 font-semibold underline"
          onClick={() => set({ reserved: [...p.reserved, { first: '', last: '', for: '' }] })}
        >
          {t('address.add-range')}
        </button>
        <Trouble text={keep.error && !at ? troubleOf(keep.error) : undefined} className="mt-2" />
        <div className="mt-3">
          <button className="forward disabled:opacity-40" disabled={keep.isPending}>
            {t('button.save')}
          </button>
        </div>
      </form>
    </Sheet>
  );
}

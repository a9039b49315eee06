import { Radios } from '../../ui/Radios';
import '../pageTexts';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { answered, api } from '../../api/client';
import { useKit } from '../../api/queries';
import { troubleOf } from '../../api/send';
import type { InstrumentFunction, KitAnswer, KitInstrument } from '../../api/types';
import { identity } from '../../session/identity';
import { useJob } from '../../session/useJob';
import { has, t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { StateMark } from '../../ui/Marks';
import { moment } from '../../ui/format';
import { Waiting } from '../walk/WalkPage';

const units = ['metre', 'ohm', 'volt', 'watt', 'ampere', 'megabitPerSecond', 'degreeCelsius', 'nanosecond', 'percent', 'second', 'degree'] as const;
type Unit = InstrumentFunction['unit'];

/** People and instruments: who may write and witness, what is in calibration, and what a reading of each is worth. */
export default function KitPage() {
  const { job, jobs } = useJob();
  const kit = useKit(job?.id);
  const [person, setPerson] = useState<KitAnswer['people'][number] | 'new'>();
  const [instrument, setInstrument] = useState<string>();
  const [checking, setChecking] = useState<KitInstrument>();
  if (!job || !kit.data) return <Waiting error={jobs.error ?? kit.error} again={() => void kit.refetch()} />;
  const editing = instrument === 'new' ? undefined : kit.data.instruments.find((i) => i.id === instrument);
  return (
    <main className="min-h-0 flex-1 overflow-y-auto p-6 max-sm:p-4">
      <h1 className="text-title font-bold">{t('kit.title')}</h1>
      <div className="mt-4 grid gap-x-10 gap-y-8 min-[1100px]:grid-cols-[minmax(0,1fr)_minmax(0,2.4fr)]">
        <section>
          <h2 className="border-t border-ink pt-2 text-lead font-bold">{t('kit.people')}</h2>
          <ul>
            {kit.data.people.map((p) => (
              <li key={p.id}>
                <button
                  className="flex min-h-12 w-full items-baseline justify-between gap-3 border-b border-hairline py-2"
                  onClick={() => setPerson(p)}
                >
                  <span className={p.left ? 'text-ink-3 line-through' : 'font-bold'}>{p.name}</span>
                  <span className="text-label text-ink-2">
                    {[p.role, p.mayWitness && t('kit.witness'), p.left && t('kit.left')].filter(Boolean).join(', ')}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          <button className="mt-2 min-h-11 font-semibold underline" onClick={() => setPerson('new')}>
            {t('kit.add-person')}
          </button>
        </section>
        <section>
          <h2 className="border-t border-ink pt-2 text-lead font-bold">{t('kit.instruments')}</h2>
          {kit.data.instruments.length === 0 && <p className="py-3 text-ink-2">{t('kit.none')}</p>}
          <ul>
            {kit.data.instruments.map((i) => {
              const counts = (i.calibration === 'valid' || i.calibration === 'dueSoon') && i.inDoubt.length === 0;
              const last = i.checks.at(-1);
              return (
                <li key={i.id} className={`border-b border-hairline py-3 ${i.retired ? 'text-ink-3' : ''}`}>
                  <div className="flex flex-wrap items-baseline gap-x-3">
                    <span className="text-body font-bold">{i.name}</span>
                    <span className="font-read text-label text-ink-2">{i.serial}</span>
                    <span className="text-label text-ink-2">{i.kind && has(`instrument.${i.kind}`) ? t(`instrument.${i.kind}`) : i.kind}</span>
                    <span className={`ml-auto text-label font-bold ${counts ? '' : 'text-refused'}`}>
                      {[
                        i.retired && t('kit.retired'),
                        t(`kit.${i.calibration}`, i.daysLeft ?? ''),
                        i.inDoubt.length > 0 && t('kit.in-doubt', i.inDoubt.map((u) => t(`unit.${u}`)).join(', ')),
                      ]
                        .filter(Boolean)
                        .join(', ')}
                    </span>
                  </div>
                  <p className="mt-1 text-label text-ink-2">
                    {i.calibratedOn && `${t('kit.from')} ${i.calibratedOn}, ${t('ui.due', i.calibrationDue ?? '')}`}
                    {i.certificate && `, ${t('kit.certificate')} ${i.certificate}`}
                  </p>
                  <p className="mt-1 flex flex-wrap gap-x-6 font-read text-label">
                    {i.functions.map((f, n) => (
                      <span key={n}>{accuracyText(f)}</span>
                    ))}
                  </p>
                  <div className="mt-1 flex flex-wrap items-center gap-x-5 text-label">
                    {last ? (
                      <span className="flex items-center gap-2">
                        <StateMark state={last.in === false ? 'out' : 'in'} />
                        {`${last.reading} ${t(`unit.${last.unit}`)} / ${last.reference}, ${t(last.in === false ? 'kit.out' : 'kit.in')}, ${moment(last.at, job.timeZone)}`}
                      </span>
                    ) : (
                      <span className="text-ink-3">{t('kit.no-checks')}</span>
                    )}
                    <button className="ml-auto min-h-9 font-semibold underline" onClick={() => setChecking(i)}>
                      {t('kit.check')}
                    </button>
                    <button className="min-h-9 font-semibold underline" onClick={() => setInstrument(i.id)}>
                      {t('practice.edit')}
                    </button>
                  </div>
                </li>
              );
            })}
          </ul>
          <button className="mt-2 min-h-11 font-semibold underline" onClick={() => setInstrument('new')}>
            {t('kit.add-instrument')}
          </button>
        </section>
      </div>
      {person && <PersonSheet jobId={job.id} person={person === 'new' ? undefined : person} onClose={() => setPerson(undefined)} />}
      {instrument && <InstrumentSheet jobId={job.id} kit={kit.data} instrument={editing} onClose={() => setInstrument(undefined)} />}
      {checking && <CheckSheet jobId={job.id} instrument={checking} onClose={() => setChecking(undefined)} />}
    </main>
  );
}

const accuracyText = (f: InstrumentFunction) => {
  const a = f.accuracy;
  const unit = t(`unit.${f.unit}`);
  return `${unit}${f.upTo ? ` ${t('report.up-to', f.upTo)}` : ''}: ${a.percentOfReading} %${a.counts ? ` + ${a.counts} x ${a.resolution}` : ''}${a.absolute ? ` + ${a.absolute} ${unit}` : ''}`;
};

function useKeep(onClose: () => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (work: () => Promise<unknown>) => work(),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ['kit'] });
      await client.invalidateQueries({ queryKey: ['card'] });
      onClose();
    },
  });
}

const Trouble = ({ error }: { error: unknown }) =>
  error ? (
    <p role="alert" className="mb-3 font-semibold text-refused">
      {troubleOf(error)}
    </p>
  ) : null;

function PersonSheet({ jobId, person, onClose }: { jobId: string; person?: KitAnswer['people'][number]; onClose: () => void }) {
  const [id] = useState(() => v7());
  const [form, setForm] = useState({
    name: person?.name ?? '',
    role: person?.role ?? '',
    mayWitness: person?.mayWitness ?? false,
    left: person?.left ?? false,
  });
  const keep = useKeep(onClose);
  const save = () =>
    keep.mutate(() =>
      person
        ? answered(api.PUT('/api/jobs/{jobId}/people/{personId}', { params: { path: { jobId, personId: person.id } }, body: form }))
        : answered(
            api.POST('/api/jobs/{jobId}/people', {
              params: { path: { jobId } },
              body: { id, name: form.name, role: form.role, mayWitness: form.mayWitness },
            }),
          ),
    );
  return (
    <Sheet title={t(person ? 'kit.people' : 'kit.add-person')} onClose={onClose}>
      <Labelled label={t('ui.name')}>
        <input className="field" value={form.name} maxLength={80} onChange={(e) => setForm({ ...form, name: e.target.value })} />
      </Labelled>
      <Labelled label={t('ui.role')}>
        <input className="field" value={form.role} maxLength={80} onChange={(e) => setForm({ ...form, role: e.target.value })} />
      </Labelled>
      {(['mayWitness', 'left'] as const)
        .filter((k) => k !== 'left' || person)
        .map((k) => (
          <label key={k} className="mb-3 flex min-h-11 items-center gap-3">
            <input type="checkbox" className="h-5 w-5 accent-ink" checked={form[k]} onChange={(e) => setForm({ ...form, [k]: e.target.checked })} />
            {t(k === 'left' ? 'kit.left' : 'kit.witness')}
          </label>
        ))}
      <Trouble error={keep.error} />
      <button className="forward w-full text-center disabled:opacity-50" disabled={!form.name.trim() || keep.isPending} onClick={save}>
        {t('button.save')}
      </button>
    </Sheet>
  );
}

type Draft = { unit: Unit; upTo: string; percent: string; counts: string; resolution: string; absolute: string };
const toDraft = (f: InstrumentFunction): Draft => ({
  unit: f.unit,
  upTo: f.upTo === null ? '' : String(f.upTo),
  percent: String(f.accuracy.percentOfReading),
  counts: f.accuracy.counts ? String(f.accuracy.counts) : '',
  resolution: f.accuracy.resolution === null ? '' : String(f.accuracy.resolution),
  absolute: f.accuracy.absolute ? String(f.accuracy.absolute) : '',
});
const number = (text: string) => Number(text.trim().replace(',', '.'));
const fromDraft = (d: Draft): InstrumentFunction => ({
  unit: d.unit,
  upTo: d.upTo.trim() ? number(d.upTo) : null,
  accuracy: {
    percentOfReading: number(d.percent || '0'),
    counts: number(d.counts || '0'),
    resolution: d.resolution.trim() ? number(d.resolution) : null,
    absolute: number(d.absolute || '0'),
  },
});

function InstrumentSheet({ jobId, kit, instrument, onClose }: { jobId: string; kit: KitAnswer; instrument?: KitInstrument; onClose: () => void }) {
  const [id] = useState(() => instrument?.id ?? v7());
  const [form, setForm] = useState({
    name: instrument?.name ?? '',
    serial: instrument?.serial ?? '',
    kind: instrument?.kind ?? '',
    certificate: instrument?.certificate ?? '',
    calibratedOn: instrument?.calibratedOn ?? '',
    calibrationDue: instrument?.calibrationDue ?? '',
    retired: instrument?.retired ?? false,
  });
  const [functions, setFunctions] = useState<Draft[]>(() => (instrument?.functions ?? []).map(toDraft));
  // Other dates are a newer calibration, or a correction of what was typed: what was read under the old ones depends on which.
  const [sort, setSort] = useState<'newer' | 'corrected'>();
  const [why, setWhy] = useState('');
  const asks =
    !!instrument?.calibratedOn &&
    !!instrument.calibrationDue &&
    (form.calibratedOn !== instrument.calibratedOn || form.calibrationDue !== instrument.calibrationDue);
  const keep = useKeep(onClose);
  const bad = functions.some((f) =>
    [f.upTo || '1', f.percent || '0', f.counts || '0', f.resolution || '1', f.absolute || '0'].some((x) => Number.isNaN(number(x))),
  );
  const save = () =>
    keep.mutate(() =>
      answered(
        api.POST('/api/jobs/{jobId}/instruments', {
          params: { path: { jobId } },
          body: {
            ...form,
            id,
            calibratedOn: form.calibratedOn || null,
            calibrationDue: form.calibrationDue || null,
            functions: functions.map(fromDraft),
            calibration: asks ? (sort ?? null) : null,
            why: asks && sort === 'corrected' ? why.trim() : null,
            by: identity().personId ?? null,
          },
        }),
      ),
    );
  const change = (i: number, next: Partial<Draft>) => setFunctions(functions.map((f, n) => (n === i ? { ...f, ...next } : f)));
  const small = 'field !min-h-9 !px-2 !py-1 font-read text-label';
  return (
    <Sheet title={t(instrument ? 'kit.instruments' : 'kit.add-instrument')} onClose={onClose} wide>
      <div className="grid grid-cols-1 gap-x-4 sm:grid-cols-2">
        <Labelled label={t('ui.name')}>
          <input className="field" value={form.name} maxLength={80} onChange={(e) => setForm({ ...form, name: e.target.value })} />
        </Labelled>
        <Labelled label={t('kit.serial')}>
          <input className="field font-read" value={form.serial} maxLength={60} onChange={(e) => setForm({ ...form, serial: e.target.value })} />
        </Labelled>
        <Labelled label={t('kit.kind')}>
          <select
            className="field"
            value={form.kind}
            onChange={(e) => {
              const kind = kit.kinds.find((k) => k.id === e.target.value);
              setForm({ ...form, kind: e.target.value });
              if (kind) setFunctions(kind.functions.map(toDraft));
            }}
          >
            <option value="">{t('kit.other')}</option>
            {kit.kinds.map((k) => (
              <option key={k.id} value={k.id}>
                {t(`instrument.${k.id}`)}
              </option>
            ))}
          </select>
        </Labelled>
        <Labelled label={t('kit.certificate')}>
          <input className="field" value={form.certificate} maxLength={80} onChange={(e) => setForm({ ...form, certificate: e.target.value })} />
        </Labelled>
        {(['calibratedOn', 'calibrationDue'] as const).map((k) => (
          <Labelled key={k} label={t(k === 'calibratedOn' ? 'kit.from' : 'kit.until')}>
            <input className="field font-read" type="date" value={form[k]} onChange={(e) => setForm({ ...form, [k]: e.target.value })} />
          </Labelled>
        ))}
      </div>
      {asks && (
        <fieldset className="mb-3 border-l-2 border-noted pl-3">
          <legend className="sr-only">{t('kit.change')}</legend>
          <p className="text-label font-bold">{t('kit.change')}</p>
          <Radios label={t('kit.change')}>
            {(['newer', 'corrected'] as const).map((c) => (
              <button
                key={c}
                type="button"
                role="radio"
                aria-checked={sort === c}
                className={`flex min-h-11 w-full items-center gap-3 border-b border-hairline px-1 text-left ${sort === c ? 'font-bold' : ''}`}
                onClick={() => setSort(c)}
              >
                {t(`kit.change-${c}`)}
              </button>
            ))}
          </Radios>
          {sort === 'corrected' && (
            <Labelled label={t('kit.change-why')}>
              <input className="field" maxLength={400} value={why} onChange={(e) => setWhy(e.target.value)} />
            </Labelled>
          )}
        </fieldset>
      )}
      <fieldset className="mb-3">
        <legend className="mb-1 text-label font-semibold text-ink-2">{t('kit.accuracy')}</legend>
        {functions.length > 0 && (
          <div className="grid grid-cols-[1.2fr_0.9fr_0.9fr_0.8fr_0.8fr_0.8fr_auto] items-center gap-1 text-tick text-ink-2" role="presentation">
            {['kit.unit', 'kit.up-to', 'kit.percent', 'kit.counts', 'kit.resolution', 'kit.absolute'].map((h) => (
              <span key={h}>{t(h)}</span>
            ))}
            <span />
            {functions.map((f, i) => (
              <div key={i} className="contents">
                <select aria-label={t('kit.unit')} className={small} value={f.unit} onChange={(e) => change(i, { unit: e.target.value as Unit })}>
                  {units.map((u) => (
                    <option key={u} value={u}>
                      {t(`unit.${u}`)}
                    </option>
                  ))}
                </select>
                {(['upTo', 'percent', 'counts', 'resolution', 'absolute'] as const).map((k) => (
                  <input
                    key={k}
                    aria-label={t(`kit.${k === 'upTo' ? 'up-to' : k}`)}
                    inputMode="decimal"
                    className={small}
                    value={f[k]}
                    onChange={(e) => change(i, { [k]: e.target.value })}
                  />
                ))}
                <button className="min-h-9 px-2 text-label font-semibold underline" onClick={() => setFunctions(functions.filter((_, n) => n !== i))}>
                  {t('kit.remove')}
                </button>
              </div>
            ))}
          </div>
        )}
        <button
          className="min-h-11 text-label font-semibold underline"
          onClick={() => setFunctions([...functions, { unit: 'volt', upTo: '', percent: '1', counts: '', resolution: '', absolute: '' }])}
        >
          {t('kit.add-range')}
        </button>
      </fieldset>
      {instrument && instrument.earlier.length > 0 && (
        <p className="mb-3 text-label text-ink-2">
          {t('kit.earlier')}: {instrument.earlier.map((p) => `${p.from} / ${p.until} ${p.certificate}`).join(', ')}
        </p>
      )}
      {instrument && (
        <label className="mb-3 flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            className="h-5 w-5 accent-ink"
            checked={form.retired}
            onChange={(e) => setForm({ ...form, retired: e.target.checked })}
          />
          {t('kit.retired')}
        </label>
      )}
      <Trouble error={keep.error} />
      <button
        className="forward w-full text-center disabled:opacity-50"
        disabled={!form.name.trim() || !form.serial.trim() || bad || keep.isPending || (asks && (!sort || (sort === 'corrected' && !why.trim())))}
        onClick={save}
      >
        {t('button.save')}
      </button>
    </Sheet>
  );
}

function CheckSheet({ jobId, instrument, onClose }: { jobId: string; instrument: KitInstrument; onClose: () => void }) {
  const [id] = useState(() => v7());
  const known = [...new Set(instrument.functions.map((f) => f.unit))];
  const [unit, setUnit] = useState<Unit>(known[0] ?? 'volt');
  const [reference, setReference] = useState('');
  const [reading, setReading] = useState('');
  const keep = useKeep(onClose);
  const ready = reference.trim() && reading.trim() && !Number.isNaN(number(reference)) && !Number.isNaN(number(reading));
  return (
    <Sheet title={`${t('kit.check')}, ${instrument.name}`} hint={t('kit.check-hint')} onClose={onClose}>
      <Labelled label={t('kit.unit')}>
        <select className="field" value={unit} onChange={(e) => setUnit(e.target.value as Unit)}>
          {known.map((u) => (
            <option key={u} value={u}>
              {t(`unit.${u}`)}
            </option>
          ))}
        </select>
      </Labelled>
      <div className="flex gap-3">
        <Labelled label={t('kit.reference')}>
          <input className="field font-read" inputMode="decimal" value={reference} onChange={(e) => setReference(e.target.value)} />
        </Labelled>
        <Labelled label={t('kit.reading')}>
          <input className="field font-read" inputMode="decimal" value={reading} onChange={(e) => setReading(e.target.value)} />
        </Labelled>
      </div>
      <Trouble error={keep.error} />
      <button
        className="forward w-full text-center disabled:opacity-50"
        disabled={!ready || keep.isPending}
        onClick={() =>
          keep.mutate(() =>
            answered(
              api.POST('/api/jobs/{jobId}/instruments/{instrumentId}/checks', {
                params: { path: { jobId, instrumentId: instrument.id } },
                body: { id, unit, reference: number(reference), reading: number(reading), by: identity().personId ?? '' },
              }),
            ),
          )
        }
      >
        {t('kit.check-save')}
      </button>
      <ul className="mt-4">
        {[...instrument.checks].reverse().map((c) => (
          <li key={c.id} className="flex items-center gap-2 border-t border-hairline py-1.5 text-label">
            <StateMark state={c.in === false ? 'out' : 'in'} />
            <span className="font-read">
              {c.reading} / {c.reference} {t(`unit.${c.unit}`)}
            </span>
            <span className="ml-auto text-ink-2">{c.at.slice(0, 16).replace('T', ' ')}</span>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

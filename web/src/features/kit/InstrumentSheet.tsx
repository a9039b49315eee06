import { Radios } from '../../ui/Radios';
import { useCallback, useRef, useState } from 'react';
import { v7 } from 'uuid';
import { answered, api } from '../../api/client';
import type { Impact, InstrumentFunction, KitAnswer, KitInstrument, WorkAnswer } from '../../api/types';
import { useLongWork } from '../../api/useLongWork';
import { identity } from '../../session/identity';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { Progress } from '../../ui/Progress';
import { ImpactList } from '../practice/ImpactList';
import { units, type Unit } from './units';
import { KeepTrouble, useKeep } from './useKeep';
import { day } from '../../ui/format';
import { Trouble } from '../../ui/Trouble';

type Draft = { unit: Unit; upTo: string; percent: string; counts: string; resolution: string; absolute: string };

const toDraft = (f: InstrumentFunction): Draft => ({
  unit: f.unit,
  upTo: f.upTo === null ? '' : String(f.upTo),
  percent: String(f.accuracy.percentOfReading),
  counts: f.accuracy.counts ? String(f.accuracy.counts) : '',
  resolution: f.accuracy.resolution === null ? '' : String(f.accuracy.resolution),
  absolute: f.accuracy.absolute ? String(f.accuracy.absolute) : '',
});

export const number = (text: string) => Number(text.trim().replace(',', '.'));

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

export function InstrumentSheet({
  jobId,
  kit,
  instrument,
  onClose,
}: {
  jobId: string;
  kit: KitAnswer;
  instrument?: KitInstrument;
  onClose: () => void;
}) {
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
  const body = {
    ...form,
    id,
    calibratedOn: form.calibratedOn || null,
    calibrationDue: form.calibrationDue || null,
    functions: functions.map(fromDraft),
    calibration: asks ? (sort ?? null) : null,
    why: asks && sort === 'corrected' ? why.trim() : null,
    by: identity().personId ?? null,
  };
  const path = { params: { path: { jobId } } };
  // What was read with it may no longer count, or count anew: that is seen before it is kept.
  const asked = JSON.stringify(body);
  const [seen, setSeen] = useState<{ of: string; impact?: Impact }>();
  const asking = useRef('');
  const look = useLongWork(useCallback((work: WorkAnswer) => setSeen({ of: asking.current, impact: work.impact ?? undefined }), []));
  const isSeen = !instrument || seen?.of === asked;
  const save = () => {
    if (isSeen) keep.mutate(() => answered(api.POST('/api/jobs/{jobId}/instruments', { ...path, body })));
    else {
      asking.current = asked;
      look.begin(answered(api.POST('/api/jobs/{jobId}/instruments/impact', { ...path, body })));
    }
  };
  const change = (i: number, next: Partial<Draft>) => setFunctions(functions.map((f, n) => (n === i ? { ...f, ...next } : f)));
  const small = 'field !min-h-9 !px-2 !py-1 font-read text-label';
  return (
    <Sheet title={t(instrument ? 'kit.instruments' : 'kit.add-instrument')} onClose={onClose} wide>
      <div className="grid grid-cols-1 gap-x-4 sm:grid-cols-2">
        <Labelled label={t('ui.name')}>
          <input className="field" value={form.name} maxLength={80} onChange={(e) => setForm({ ...form, name: e.target.value })} />
        </Labelled>
        <Labelled label={t('kit.serial')}>
          <input
            className="field font-read"
            value={form.serial}
            maxLength={60}
            onChange={(e) => setForm({ ...form, serial: e.target.value })}
          />
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
          <input
            className="field"
            value={form.certificate}
            maxLength={80}
            onChange={(e) => setForm({ ...form, certificate: e.target.value })}
          />
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
          <div
            className="grid grid-cols-[1.2fr_0.9fr_0.9fr_0.8fr_0.8fr_0.8fr_auto] items-center gap-1 text-tick text-ink-2"
            role="presentation"
          >
            {['kit.unit', 'kit.up-to', 'kit.percent', 'kit.counts', 'kit.resolution', 'kit.absolute'].map((h) => (
              <span key={h}>{t(h)}</span>
            ))}
            <span />
            {functions.map((f, i) => (
              <div key={i} className="contents">
                <select
                  aria-label={t('kit.unit')}
                  className={small}
                  value={f.unit}
                  onChange={(e) => change(i, { unit: e.target.value as Unit })}
                >
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
                <button
                  className="min-h-9 px-2 text-label font-semibold underline"
                  onClick={() => setFunctions(functions.filter((_, n) => n !== i))}
                >
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
          {t('kit.earlier')}: {instrument.earlier.map((p) => `${day(p.from)} \u2013 ${day(p.until)} ${p.certificate}`).join(', ')}
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
      <KeepTrouble error={keep.error} />
      <Trouble text={look.trouble} />
      {look.running && <Progress work={look.work} what={t('practice.looking')} />}
      {instrument && isSeen && seen?.impact && (
        <div role="status" className="mb-3 border-l-4 border-accent pl-4">
          <ImpactList impact={seen.impact} />
        </div>
      )}
      <button
        className="forward w-full text-center disabled:opacity-50"
        disabled={
          !form.name.trim() ||
          !form.serial.trim() ||
          bad ||
          keep.isPending ||
          look.running ||
          (asks && (!sort || (sort === 'corrected' && !why.trim())))
        }
        onClick={save}
      >
        {t(isSeen ? 'button.save' : 'practice.look')}
      </button>
    </Sheet>
  );
}

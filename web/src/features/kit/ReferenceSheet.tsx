import { useState } from 'react';
import { v7 } from 'uuid';
import { answered, api } from '../../api/client';
import type { KitInstrument } from '../../api/types';
import { identity } from '../../session/identity';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { StateMark } from '../../ui/Marks';
import { type Unit } from './units';
import { KeepTrouble, useKeep } from './useKeep';
import { number } from './InstrumentSheet';

export function CheckSheet({ jobId, instrument, onClose }: { jobId: string; instrument: KitInstrument; onClose: () => void }) {
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
      <KeepTrouble error={keep.error} />
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

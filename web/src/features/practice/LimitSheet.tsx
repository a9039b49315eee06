import { useState } from 'react';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import type { Limit, Figure } from './types';
import { nameOf, toNumber } from './parts';

export function LimitSheet({
  entry,
  onClose,
  onSave,
}: {
  entry: Limit | Figure;
  onClose: () => void;
  onSave: (l: Limit | Figure) => void;
}) {
  const isFigure = 'value' in entry;
  const [form, setForm] = useState({
    value: isFigure ? String(entry.value) : '',
    min: isFigure || entry.min === null ? '' : String(entry.min),
    max: isFigure || entry.max === null ? '' : String(entry.max),
    source: entry.source,
    purpose: isFigure ? '' : entry.purpose,
    verify: entry.verify,
  });
  const fields = isFigure ? (['value', 'source'] as const) : (['min', 'max', 'source', 'purpose'] as const);
  const bad =
    ['value', 'min', 'max'].some((k) => Number.isNaN(toNumber(form[k as 'value']) ?? 0)) ||
    !form.source.trim() ||
    (isFigure ? form.value.trim() === '' : !form.min.trim() && !form.max.trim());
  return (
    <Sheet title={nameOf(entry.id, isFigure)} onClose={onClose}>
      {fields.map((f) => (
        <Labelled
          key={f}
          label={`${t(`practice.${f}`)}${'unit' in entry && (f === 'min' || f === 'max') ? `, ${t(`unit.${entry.unit}`)}` : ''}`}
        >
          <input
            className={`field ${f === 'source' || f === 'purpose' ? '' : 'font-read'}`}
            value={form[f]}
            maxLength={200}
            onChange={(e) => setForm({ ...form, [f]: e.target.value })}
          />
        </Labelled>
      ))}
      <label className="mb-3 flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          className="h-5 w-5 accent-ink"
          checked={form.verify}
          onChange={(e) => setForm({ ...form, verify: e.target.checked })}
        />
        {t('practice.to-verify')}
      </label>
      <button
        className="forward w-full text-center disabled:opacity-50"
        disabled={bad}
        onClick={() =>
          onSave(
            isFigure
              ? { ...entry, value: toNumber(form.value)!, source: form.source.trim(), verify: form.verify }
              : {
                  ...entry,
                  min: toNumber(form.min),
                  max: toNumber(form.max),
                  source: form.source.trim(),
                  verify: form.verify,
                  purpose: form.purpose.trim(),
                },
          )
        }
      >
        {t('ui.done')}
      </button>
    </Sheet>
  );
}

import { useState } from 'react';
import type { DeviceKind } from '../../api/types';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { featureName, slug } from './parts';

export function KindSheet({
  kind,
  name: known,
  features: all,
  onClose,
  onSave,
}: {
  kind?: DeviceKind;
  name: string;
  features: string[];
  onClose: () => void;
  onSave: (k: DeviceKind, name: string) => void;
}) {
  const [name, setName] = useState(known);
  const [features, setFeatures] = useState(new Set(kind?.features ?? ['camera', 'cable', 'poe']));
  const [words, setWords] = useState((kind?.words ?? []).join(', '));
  const save = () =>
    onSave(
      {
        id: kind?.id ?? slug(name),
        features: [...features],
        powerClass: kind?.powerClass ?? null,
        wattsInfraredOff: kind?.wattsInfraredOff ?? null,
        wattsInfraredOn: kind?.wattsInfraredOn ?? null,
        speedMbps: kind?.speedMbps ?? null,
        words: words
          .split(',')
          .map((w) => w.trim())
          .filter(Boolean),
      } as DeviceKind,
      name.trim(),
    );
  return (
    <Sheet title={known || t('practice.add-kind')} onClose={onClose}>
      <Labelled label={t('practice.name')}>
        <input className="field" value={name} maxLength={80} onChange={(e) => setName(e.target.value)} />
      </Labelled>
      <Labelled label={t('practice.words')}>
        <input className="field" value={words} maxLength={300} onChange={(e) => setWords(e.target.value)} />
      </Labelled>
      <fieldset className="mb-3">
        <legend className="text-label font-semibold text-ink-2">{t('practice.features')}</legend>
        <div className="grid grid-cols-2">
          {all.map((f) => (
            <label key={f} className="flex min-h-10 items-center gap-2 text-label">
              <input
                type="checkbox"
                className="h-5 w-5 accent-ink"
                checked={features.has(f)}
                onChange={() => {
                  const next = new Set(features);
                  if (!next.delete(f)) next.add(f);
                  setFeatures(next);
                }}
              />
              {featureName(f)}
            </label>
          ))}
        </div>
      </fieldset>
      <button className="forward w-full text-center disabled:opacity-50" disabled={!slug(name)} onClick={save}>
        {t('ui.done')}
      </button>
    </Sheet>
  );
}

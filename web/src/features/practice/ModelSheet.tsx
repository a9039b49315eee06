import { useState } from 'react';
import type { DeviceModel, OwnCatalogueAnswer } from '../../api/types';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { toNumber } from './parts';
import { draftOf, partsOf, stillUnknown } from './template';
import { TemplateFields } from './TemplateFields';
import type { LightDraft } from './types';

export const figures = [
  'powerClass',
  'wattsInfraredOff',
  'wattsInfraredOn',
  'speedMbps',
  'tiltLeast',
  'tiltGreatest',
  'heightLeastMetres',
  'heightGreatestMetres',
  'slackMetres',
  'boxSessionMinutes',
  'bootSecondsLeast',
  'bootSecondsMost',
] as const;

const lightStates = [
  'connected',
  'addressHeldNoRecorder',
  'lookingForAddress',
  'starting',
  'pairing',
  'updating',
  'noLink',
  'fault',
] as const;

export function ModelSheet({
  model,
  kinds,
  words,
  onClose,
  onSave,
}: {
  model?: DeviceModel;
  kinds: [string, string][];
  words: OwnCatalogueAnswer['sheet'];
  onClose: () => void;
  onSave: (m: DeviceModel) => void;
}) {
  const [id, setId] = useState(model?.id ?? '');
  const [kind, setKind] = useState(model?.kind ?? kinds[0]?.[0] ?? '');
  const [values, setValues] = useState<Record<string, string>>(() =>
    Object.fromEntries(figures.map((f) => [f, model?.[f] === null || !model ? '' : String(model[f])])),
  );
  const [unknown, setUnknown] = useState(new Set(model?.unknown ?? []));
  const [firmware, setFirmware] = useState(model?.firmware ?? '');
  const [needsRecorder, setNeedsRecorder] = useState(model?.needsRecorder ?? '');
  const [lights, setLights] = useState<LightDraft[]>(() => (model?.lights ?? []).map((l) => ({ ...l, rhythm: l.rhythmMs.join(' ') })));
  const [template, setTemplate] = useState(() => draftOf(model));
  const parts = partsOf(template);
  const rhythm = (text: string) =>
    text
      .split(/[\s,;]+/)
      .filter(Boolean)
      .map(Number);
  const badLight = lights.some(
    (l) => rhythm(l.rhythm).length === 0 || rhythm(l.rhythm).some((ms) => !Number.isInteger(ms) || ms < 20 || ms > 10000),
  );
  const bad = figures.some((f) => Number.isNaN(toNumber(values[f] ?? '') ?? 0));
  const save = () =>
    parts &&
    onSave({
      features: model?.features ?? [],
      contents: model?.contents ?? [],
      ...parts,
      ...(Object.fromEntries(figures.map((f) => [f, unknown.has(f) ? null : toNumber(values[f] ?? '')])) as Record<
        (typeof figures)[number],
        number | null
      >),
      id: id.trim(),
      kind,
      unknown: stillUnknown(unknown, parts),
      firmware: firmware.trim() || null,
      needsRecorder: needsRecorder.trim() || null,
      lights: lights.map((l, i) => ({
        id: l.id || `${l.colour}-${i + 1}`,
        colour: l.colour,
        rhythmMs: rhythm(l.rhythm),
        state: l.state,
        beside: l.beside ?? null,
        dial: l.dial ?? null,
      })),
    });
  return (
    <Sheet title={model?.id ?? t('practice.add-model')} onClose={onClose} wide>
      <div className="grid grid-cols-1 gap-x-4 sm:grid-cols-2">
        <Labelled label={t('practice.name')}>
          <input className="field" value={id} disabled={!!model} maxLength={80} onChange={(e) => setId(e.target.value)} />
        </Labelled>
        <Labelled label={t('kit.kind')}>
          <select className="field" value={kind} onChange={(e) => setKind(e.target.value)}>
            {kinds.map(([k, name]) => (
              <option key={k} value={k}>
                {name}
              </option>
            ))}
          </select>
        </Labelled>
        {figures.map((f) => (
          <div key={f} className="mb-2">
            <span className="mb-1 block text-label font-semibold text-ink-2">{t(`model.${f}`)}</span>
            <span className="flex items-center gap-3">
              <input
                aria-label={t(`model.${f}`)}
                className="field font-read !min-h-10 disabled:opacity-50"
                inputMode="decimal"
                disabled={unknown.has(f)}
                value={unknown.has(f) ? '' : (values[f] ?? '')}
                onChange={(e) => setValues({ ...values, [f]: e.target.value })}
              />
              <label className="flex items-center gap-2 whitespace-nowrap text-label">
                <input
                  type="checkbox"
                  className="h-5 w-5 accent-ink"
                  checked={unknown.has(f)}
                  onChange={() => {
                    const next = new Set(unknown);
                    if (!next.delete(f)) next.add(f);
                    setUnknown(next);
                  }}
                />
                {t('practice.unknown')}
              </label>
            </span>
          </div>
        ))}
      </div>
      <div className="grid grid-cols-1 gap-x-4 sm:grid-cols-2">
        <Labelled label={t('model.firmware')}>
          <input className="field font-read" value={firmware} maxLength={40} onChange={(e) => setFirmware(e.target.value)} />
        </Labelled>
        <Labelled label={t('model.needsRecorder')}>
          <input className="field font-read" value={needsRecorder} maxLength={40} onChange={(e) => setNeedsRecorder(e.target.value)} />
        </Labelled>
      </div>
      <fieldset>
        <legend className="text-label font-semibold text-ink-2">{t('practice.lights')}</legend>
        {lights.map((l, i) => {
          const change = (next: Partial<LightDraft>) => setLights(lights.map((x, n) => (n === i ? { ...x, ...next } : x)));
          return (
            <div key={i} className="grid grid-cols-[110px_1fr_200px_auto] items-center gap-2 py-1 max-sm:grid-cols-2">
              <select
                aria-label={t('practice.light-colour')}
                className="field !min-h-9"
                value={l.colour}
                onChange={(e) => change({ colour: e.target.value })}
              >
                {['green', 'amber', 'red', 'blue', 'white'].map((c) => (
                  <option key={c} value={c}>
                    {t(`colour.light.${c}`)}
                  </option>
                ))}
              </select>
              <input
                aria-label={t('practice.light-rhythm')}
                className="field font-read !min-h-9"
                value={l.rhythm}
                onChange={(e) => change({ rhythm: e.target.value })}
              />
              <select
                aria-label={t('practice.light-state')}
                className="field !min-h-9"
                value={l.state}
                onChange={(e) => change({ state: e.target.value as LightDraft['state'] })}
              >
                {lightStates.map((s) => (
                  <option key={s} value={s}>
                    {t(`light.${s}`)}
                  </option>
                ))}
              </select>
              <button className="min-h-9 text-label underline" onClick={() => setLights(lights.filter((_, n) => n !== i))}>
                {t('kit.remove')}
              </button>
            </div>
          );
        })}
        <button
          className="min-h-11 text-label font-semibold underline"
          onClick={() => setLights([...lights, { id: '', colour: 'green', rhythm: '500 500', state: 'connected' }])}
        >
          {t('practice.add-light')}
        </button>
        <p className="text-tick text-ink-2">{t('practice.light-hint')}</p>
      </fieldset>
      <TemplateFields draft={template} words={words} lights={lights} onChange={setTemplate} />
      {!parts && (
        <p role="alert" className="text-label font-semibold text-refused">
          {t('template.not-whole')}
        </p>
      )}
      <button
        className="forward mt-2 w-full text-center disabled:opacity-50"
        disabled={!id.trim() || bad || badLight || !parts}
        onClick={save}
      >
        {t('ui.done')}
      </button>
    </Sheet>
  );
}

import type { ReactNode } from 'react';
import type { OwnCatalogueAnswer } from '../../api/types';
import { t } from '../../texts';
import { type TemplateDraft, toggledIn } from './template';
import type { LightDraft } from './types';

type Words = OwnCatalogueAnswer['sheet'];

/** What a model's sheet says beyond its figures: what rows show, and some are judged by. Folded, a group a line. */
export function TemplateFields({
  draft,
  words,
  lights,
  onChange,
}: {
  draft: TemplateDraft;
  words: Words;
  lights: readonly LightDraft[];
  onChange: (next: TemplateDraft) => void;
}) {
  const fields = <G extends 'lens' | 'pixels' | 'reset' | 'stops' | 'cards'>(
    group: G,
    names: readonly (keyof TemplateDraft[G] & string)[],
  ) =>
    names.map((name) => (
      <Typed
        key={name}
        label={t(`template.${group}.${name}`)}
        isText={name === 'at' || name === 'class'}
        value={(draft[group] as Record<string, string>)[name]}
        onChange={(value) => onChange({ ...draft, [group]: { ...draft[group], [name]: value } })}
      />
    ));
  const choose = <G extends 'lens' | 'reset' | 'cards'>(group: G, name: keyof TemplateDraft[G] & string, options: [string, string][]) => (
    <label className="block">
      <span className="mb-1 block text-label text-ink-2">{t(`template.${group}.${name}`)}</span>
      <select
        className="field !min-h-10"
        value={(draft[group] as Record<string, string>)[name]}
        onChange={(e) => onChange({ ...draft, [group]: { ...draft[group], [name]: e.target.value } })}
      >
        {options.map(([value, text]) => (
          <option key={value} value={value}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
  const none: [string, string] = ['', t('template.none')];
  return (
    <section className="my-3 border-t border-hairline">
      <Group title={t('sheet.topic.lens')}>
        {choose(
          'lens',
          'set',
          (['fixed', 'rings', 'motor'] as const).map((set) => [set, t(`lens.${set}`)]),
        )}
        {fields('lens', ['leastMm', 'mostMm', 'widestDeg', 'narrowestDeg', 'tallestDeg', 'lowestDeg'])}
        {fields('pixels', ['wide', 'high'])}
      </Group>
      <Group title={t('sheet.topic.stops')}>{fields('stops', ['panLeast', 'panGreatest'])}</Group>
      <Group title={t('sheet.topic.reset')}>
        {fields('reset', ['leastSeconds', 'mostSeconds', 'at'])}
        {choose('reset', 'light', [
          none,
          ...lights.filter((l) => l.id).map((l): [string, string] => [l.id, `${l.id}: ${t(`light.${l.state}`)}`]),
        ])}
      </Group>
      <Group title={t('sheet.topic.cards')}>
        {fields('cards', ['slots', 'class', 'mostGigabytes'])}
        {choose('cards', 'together', [
          none,
          ...(['mirrored', 'combined', 'one'] as const).map((w): [string, string] => [w, t(`cards.${w}`)]),
        ])}
      </Group>
      <Group title={t('sheet.topic.box')}>
        {draft.box.map((point, i) => {
          const set = (next: Partial<typeof point>) =>
            onChange({ ...draft, box: draft.box.map((b, n) => (n === i ? { ...b, ...next } : b)) });
          return (
            <div key={i} className="col-span-full grid grid-cols-2 gap-x-4">
              <Typed label={t('template.box.ambientC')} value={point.ambientC} onChange={(ambientC) => set({ ambientC })} />
              <Typed label={t('template.box.minutes')} value={point.minutes} onChange={(minutes) => set({ minutes })} />
            </div>
          );
        })}
        <Add onAdd={() => onChange({ ...draft, box: [...draft.box, { ambientC: '', minutes: '' }] })} />
      </Group>
      <Group title={t('sheet.topic.seals')}>
        <Ticked
          all={words.interfaces}
          on={draft.seals}
          name={(w) => t(`interface.${w}`)}
          onToggle={(w) => onChange({ ...draft, seals: toggledIn(draft.seals, w, words.interfaces) })}
        />
      </Group>
      <Group title={t('sheet.topic.fasteners')}>
        {draft.fasteners.map((f, i) => {
          const set = (next: Partial<typeof f>) =>
            onChange({ ...draft, fasteners: draft.fasteners.map((x, n) => (n === i ? { ...x, ...next } : x)) });
          return (
            <div key={i} className="col-span-full grid grid-cols-[1fr_1fr_5rem_auto] items-end gap-x-3 max-sm:grid-cols-2">
              <label className="block">
                <span className="mb-1 block text-label text-ink-2">{t('template.fastener.part')}</span>
                <select className="field !min-h-10" value={f.part} onChange={(e) => set({ part: e.target.value })}>
                  {words.fastened.map((part) => (
                    <option key={part} value={part}>
                      {t(`fastener.${part}`)}
                    </option>
                  ))}
                </select>
              </label>
              <Typed isText label={t('template.fastener.drive')} value={f.drive} onChange={(drive) => set({ drive })} />
              <Typed label={t('template.fastener.count')} value={f.count} onChange={(count) => set({ count })} />
              <label className="flex min-h-10 items-center gap-2 whitespace-nowrap text-label">
                <input type="checkbox" className="h-5 w-5 accent-ink" checked={f.captive} onChange={() => set({ captive: !f.captive })} />
                {t('template.fastener.captive')}
              </label>
            </div>
          );
        })}
        <Add
          onAdd={() =>
            onChange({ ...draft, fasteners: [...draft.fasteners, { part: words.fastened[0], drive: '', count: '1', captive: false }] })
          }
        />
      </Group>
      <Group title={t('template.surfaces')}>
        {words.settings.map((setting) => (
          <div key={setting} className="col-span-full flex flex-wrap items-center gap-x-4 border-b border-hairline">
            <span className="w-40 text-label font-semibold">{t(`setting.${setting}`)}</span>
            <Ticked
              all={words.surfaces}
              on={draft.surfaces[setting] ?? []}
              name={(w) => t(`surface.${w}`)}
              onToggle={(w) =>
                onChange({
                  ...draft,
                  surfaces: { ...draft.surfaces, [setting]: toggledIn(draft.surfaces[setting] ?? [], w, words.surfaces) },
                })
              }
            />
          </div>
        ))}
      </Group>
    </section>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <details className="group border-b border-hairline">
      <summary className="flex min-h-11 cursor-pointer items-center text-label font-semibold first-letter:uppercase">
        <span className="flex-1 first-letter:uppercase">{title}</span>
        <span aria-hidden className="text-ink-3 group-open:rotate-90">
          ›
        </span>
      </summary>
      <div className="grid grid-cols-1 gap-x-4 gap-y-2 pb-3 sm:grid-cols-2">{children}</div>
    </details>
  );
}

function Typed({ label, value, onChange, isText }: { label: string; value: string; onChange: (value: string) => void; isText?: boolean }) {
  return (
    <label className="block">
      <span className="mb-1 block text-label text-ink-2">{label}</span>
      <input
        className={`field !min-h-10 ${isText ? '' : 'font-read'}`}
        inputMode={isText ? undefined : 'decimal'}
        maxLength={isText ? 120 : 20}
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
    </label>
  );
}

function Ticked({
  all,
  on,
  name,
  onToggle,
}: {
  all: readonly string[];
  on: readonly string[];
  name: (word: string) => string;
  onToggle: (word: string) => void;
}) {
  return (
    <div className="col-span-full flex flex-wrap gap-x-4">
      {all.map((word) => (
        <label key={word} className="flex min-h-10 items-center gap-2 text-label">
          <input type="checkbox" className="h-5 w-5 accent-ink" checked={on.includes(word)} onChange={() => onToggle(word)} />
          {name(word)}
        </label>
      ))}
    </div>
  );
}

const Add = ({ onAdd }: { onAdd: () => void }) => (
  <button type="button" className="col-span-full min-h-11 text-left text-label font-semibold underline" onClick={onAdd}>
    {t('template.add')}
  </button>
);

import { useState } from 'react';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import type { Limit, Check } from './types';
import { featureName, toNumber, slug } from './parts';

const sections = [
  'before',
  'bench',
  'cable',
  'fixing',
  'power',
  'link',
  'address',
  'time',
  'recorder',
  'aim',
  'focus',
  'night',
  'finish',
] as const;

const legs = ['recorder', 'port', 'run', 'power', 'link', 'address', 'picture', 'fixing'] as const;

export function CheckSheet({
  check,
  words,
  limit,
  features,
  onClose,
  onSave,
}: {
  check?: Check;
  words?: Record<string, string>;
  limit?: Limit;
  features: string[];
  onClose: () => void;
  onSave: (c: Check, texts: Record<string, string>, limit?: Limit) => void;
}) {
  const [form, setForm] = useState({
    name: (check && words?.[`check.${check.id}`]) ?? '',
    ask: (check && words?.[`check.${check.id}.ask`]) ?? '',
    entry: check?.entry ?? 'yesNo',
    unit: check && check.unit !== 'none' ? check.unit : 'percent',
    section: check?.section ?? 'finish',
    leg: check?.leg ?? 'fixing',
    feature: check?.applies.feature ?? 'camera',
    min: limit?.min === null || !limit ? '' : String(limit.min),
    max: limit?.max === null || !limit ? '' : String(limit.max),
    source: limit?.source ?? '',
    required: check ? check.required.always !== false : true,
    out: (check?.items ?? [])
      .filter((i) => i.out)
      .map((i) => words?.[`item.${i.id}`] ?? i.id)
      .join('\n'),
    care: (check?.items ?? [])
      .filter((i) => !i.out)
      .map((i) => words?.[`item.${i.id}`] ?? i.id)
      .join('\n'),
  });
  const set = (next: Partial<typeof form>) => setForm({ ...form, ...next });
  const id = check?.id ?? `own.${slug(form.name)}`;
  const isNumber = form.entry === 'number';
  const isList = form.entry === 'list';
  const lines = (text: string) =>
    text
      .split('\n')
      .map((l) => l.trim())
      .filter(Boolean);
  const none = { all: null, any: null, not: null, feature: null, kind: null, always: null };
  const items = [...lines(form.out).map((l) => [l, true] as const), ...lines(form.care).map((l) => [l, false] as const)].map(
    ([text, out]) => ({
      text,
      item: { id: `${id}.${slug(text)}`, applies: none, out, bring: false, loose: false },
    }),
  );
  const limited = isNumber && (form.min.trim() || form.max.trim());
  const bad =
    !form.name.trim() ||
    !form.ask.trim() ||
    (isList && items.length === 0) ||
    (limited && !form.source.trim()) ||
    [form.min, form.max].some((x) => Number.isNaN(toNumber(x) ?? 0));
  const save = () => {
    const rule = { all: null, any: null, not: null, feature: null, kind: null, always: null };
    onSave(
      {
        ...(check ?? {}),
        id,
        version: (check?.version ?? 0) + 1,
        section: form.section,
        leg: form.leg,
        entry: form.entry,
        unit: isNumber ? form.unit : 'none',
        decimals: 1,
        plausible: null,
        choices: [],
        per: 'place',
        partsFrom: null,
        under: ['any'],
        applies: { ...rule, feature: form.feature },
        required: form.required ? rule : { ...rule, always: false },
        gates: [],
        voidedBy: check?.voidedBy ?? ['unit-swapped'],
        ofUnit: false,
        limits: limited ? [`set:own.${id}`] : [],
        expect: isNumber || isList ? null : 'yes',
        judge: isNumber ? 'window' : isList ? 'list' : 'yes-no',
        items: isList ? items.map((i) => i.item) : [],
        tester: null,
        cautions: [],
        minutes: check?.minutes ?? 2,
      } as unknown as Check,
      {
        [`check.${id}`]: form.name.trim(),
        [`check.${id}.ask`]: form.ask.trim(),
        ...(isList
          ? Object.fromEntries(
              items.flatMap((i) => [
                [`item.${i.item.id}`, i.text],
                [`item.${i.item.id}.for`, t(i.item.out ? 'practice.item-out' : 'practice.item-care')],
              ]),
            )
          : {}),
      },
      limited
        ? {
            id: `own.${id}`,
            min: toNumber(form.min),
            max: toNumber(form.max),
            unit: form.unit,
            source: form.source.trim(),
            verify: false,
            purpose: form.name.trim(),
          }
        : undefined,
    );
  };
  const select = <K extends 'section' | 'leg' | 'feature' | 'unit' | 'entry'>(
    k: K,
    label: string,
    options: readonly string[],
    name: (o: string) => string,
  ) => (
    <Labelled label={label}>
      <select className="field" value={form[k]} onChange={(e) => set({ [k]: e.target.value })}>
        {options.map((o) => (
          <option key={o} value={o}>
            {name(o)}
          </option>
        ))}
      </select>
    </Labelled>
  );
  return (
    <Sheet title={form.name || t('practice.add-check')} onClose={onClose} wide>
      <div className="grid grid-cols-1 gap-x-4 sm:grid-cols-2">
        <Labelled label={t('practice.name')}>
          <input className="field" value={form.name} maxLength={60} onChange={(e) => set({ name: e.target.value })} />
        </Labelled>
        <Labelled label={t('practice.ask')}>
          <input className="field" value={form.ask} maxLength={120} onChange={(e) => set({ ask: e.target.value })} />
        </Labelled>
        {select('entry', t('practice.entry'), ['yesNo', 'number', 'list'], (o) => t(`practice.entry.${o}`))}
        {select('feature', t('practice.for'), features, featureName)}
        {select('section', t('practice.section'), sections, (o) => t(`section.${o}`))}
        {select('leg', t('practice.leg'), legs, (o) => t(`leg.${o}`))}
        {isNumber && (
          <>
            {select(
              'unit',
              t('kit.unit'),
              [
                'metre',
                'ohm',
                'volt',
                'watt',
                'ampere',
                'megabitPerSecond',
                'degreeCelsius',
                'nanosecond',
                'percent',
                'second',
                'minute',
                'count',
                'degree',
              ],
              (o) => t(`unit.${o}`),
            )}
            <Labelled label={t('practice.source')}>
              <input className="field" value={form.source} maxLength={120} onChange={(e) => set({ source: e.target.value })} />
            </Labelled>
            {(['min', 'max'] as const).map((k) => (
              <Labelled key={k} label={t(`practice.${k}`)}>
                <input className="field font-read" inputMode="decimal" value={form[k]} onChange={(e) => set({ [k]: e.target.value })} />
              </Labelled>
            ))}
          </>
        )}
      </div>
      {isList &&
        (['out', 'care'] as const).map((k) => (
          <Labelled key={k} label={t(`practice.items-${k}`)}>
            <textarea className="field" rows={3} value={form[k]} onChange={(e) => set({ [k]: e.target.value })} />
          </Labelled>
        ))}
      <label className="mb-3 flex min-h-11 items-center gap-3">
        <input
          type="checkbox"
          className="h-5 w-5 accent-ink"
          checked={form.required}
          onChange={(e) => set({ required: e.target.checked })}
        />
        {t('practice.required')}
      </label>
      <button className="forward w-full text-center disabled:opacity-50" disabled={!!bad} onClick={save}>
        {t('ui.done')}
      </button>
    </Sheet>
  );
}

import { t } from '../../../texts';
import { coloursOf } from '../../../ui/WireMap';
import type { Draft } from '../drafts';
import type { Entry } from '../entry';
import type { Way } from './way';

/** Far pins by near pin, one by one. */
export const wireMap: Way<'wireMap'> = {
  kind: 'wireMap',
  toReading: (_, draft) =>
    draft.pins && draft.pins.length === 8 && draft.pins.every((p) => p !== null)
      ? {
          value: {
            kind: 'wireMap',
            nearToFar: farPins(draft.pins, draft.joined),
            readAt: 'farUnit',
            openDistanceMetres: null,
            remoteLabel: null,
            shieldArrives: draft.shield ?? null,
            twistedPairs: draft.twists?.trim() ? groups(draft.twists) : null,
          },
        }
      : null,
  draftOf: (value) => ({ pins: value.nearToFar.map((far) => (far.length === 0 ? 0 : far[0])) }),
  shown: (_, value, map) => {
    const good = value.nearToFar.filter((far, i) => far.length === 1 && far[0] === i + 1).length;
    return { big: String(good), unit: map && good === 8 && map.why === 'noFault' ? t('report.straight') : t('walk.of', '', 8).trim() };
  },
  field: ({ entry, scheme }) => (
    <div className="flex flex-col gap-1">
      <PinFields entry={entry} scheme={scheme} />
      <MapExtras entry={entry} />
    </div>
  ),
};

const pinOf = (word: string) => (/^s$/i.test(word) ? 9 : Number(word));

const groups = (text: string | undefined) =>
  text?.trim()
    ? text
        .trim()
        .split(/[\s,;]+/)
        .map((group) => group.split(/[-/]/).map(pinOf))
    : [];

/** Far pins by near pin: conductors joined to each other show at each other's far pins too, which is how a tester sees a short. */
function farPins(pins: (number | null)[], joined: string | undefined) {
  const far = pins.map((p) => (p ? [p] : []));
  for (const group of groups(joined)) {
    const all = [...new Set(group.flatMap((pin) => (pin === 9 ? [9] : (far[pin - 1] ?? [pin]))))].sort((a, b) => a - b);
    for (const pin of group) if (pin !== 9) far[pin - 1] = all;
  }
  return far;
}

/** Far pins, one by one: there is no key that says "all straight". */
export function pinsOf(draft: Draft): (number | null)[] {
  return draft.pins ?? Array<number | null>(8).fill(null);
}

export function setPin(entry: Entry, index: number, pin: number | null) {
  const pins = [...pinsOf(entry.draft)];
  pins[index] = pin;
  entry.change({ pins, shield: entry.draft.shield, twists: entry.draft.twists, joined: entry.draft.joined });
}

const straightTwists = '1-2 3-6 4-5 7-8';

/** What a better tester tells beside the order of pins: the shield, and which conductors are twisted with each other. */
export function MapExtras({ entry }: { entry: Entry }) {
  const draft = entry.draft;
  const set = (next: Partial<Draft>) => entry.change({ ...draft, ...next, fromTester: undefined });
  const shown = draft.twists === undefined ? '' : draft.twists === straightTwists ? 'straight' : 'other';
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-label">
      <label className="flex items-center gap-2">
        {t('map.joined')}
        <input
          className="field font-read !min-h-9 !w-24"
          placeholder="4-5"
          title={t('map.joined-hint')}
          aria-description={t('map.joined-hint')}
          value={draft.joined ?? ''}
          maxLength={30}
          onChange={(e) => set({ joined: e.target.value || undefined })}
        />
      </label>
      <label className="flex items-center gap-2">
        {t('map.shield')}
        <select
          className="field !min-h-9 !w-auto !py-0"
          value={draft.shield === undefined ? '' : String(draft.shield)}
          onChange={(e) => set({ shield: e.target.value === '' ? undefined : e.target.value === 'true' })}
        >
          <option value="">{t('map.not-measured')}</option>
          <option value="true">{t('map.shield-arrives')}</option>
          <option value="false">{t('map.shield-open')}</option>
        </select>
      </label>
      <label className="flex items-center gap-2">
        {t('map.pair-test')}
        <select
          className="field !min-h-9 !w-auto !py-0"
          value={shown}
          onChange={(e) =>
            set({ twists: e.target.value === '' ? undefined : e.target.value === 'straight' ? straightTwists : '1-2 3-4 5-6 7-8' })
          }
        >
          <option value="">{t('map.not-made')}</option>
          <option value="straight">{t('map.twisted-right')}</option>
          <option value="other">{t('map.twisted-otherwise')}</option>
        </select>
      </label>
      {shown === 'other' && (
        <input
          className="field font-read !min-h-9 !w-44"
          aria-label={t('map.twists')}
          value={draft.twists}
          maxLength={40}
          onChange={(e) => set({ twists: e.target.value })}
        />
      )}
    </div>
  );
}

/** The fields of one map, in their order. */
const besides = (field: HTMLInputElement) => [...(field.closest('[role=group]')?.querySelectorAll('input') ?? [])];

/** What was typed into a pin that said something before: the digit that is new; null: it was taken out; undefined: no pin. */
export function typedPin(text: string, before: number | null): number | null | undefined {
  const signs = text.replace(before === null ? '' : String(before), '');
  if (text === '') return null;
  return /^[0-8]$/.test(signs) ? Number(signs) : undefined;
}

/** Eight fields, near pin by near pin; typing a digit goes on to the next. */
export function PinFields({ entry, scheme }: { entry: Entry; scheme: string }) {
  const pins = pinsOf(entry.draft);
  const colours = coloursOf(scheme);
  return (
    <div className="flex gap-1.5" role="group" aria-label={t('card.pins-hint')}>
      {pins.map((pin, i) => (
        <label key={i} className="flex w-14 flex-col items-center">
          <span className="flex h-7 items-end text-center text-tick leading-[0.85rem] text-ink-3">{t(`colour.${colours[i]}`)}</span>
          <span className="font-read text-label font-bold">{i + 1}</span>
          <input
            className="font-read field !min-h-11 !px-0 text-center text-lead font-bold"
            inputMode="numeric"
            autoFocus={i === 0}
            aria-label={`${i + 1}, ${t(`colour.${colours[i]}`)}`}
            value={pin ?? ''}
            // A keyboard on the glass says which key it was by what then stands there, and not before.
            onChange={(e) => {
              const typed = typedPin(e.target.value, pin);
              if (typed === undefined) return;
              setPin(entry, i, typed);
              if (typed !== null) besides(e.target)[i + 1]?.focus();
            }}
            onKeyDown={(e) => {
              const fields = besides(e.currentTarget);
              if (e.key === 'Backspace' && pin === null) {
                e.preventDefault();
                fields[i - 1]?.focus();
              }
              if (e.key === 'ArrowRight') fields[i + 1]?.focus();
              if (e.key === 'ArrowLeft') fields[i - 1]?.focus();
            }}
          />
          <span className="h-4 text-tick text-refused">{pin === 0 ? t('report.open') : ''}</span>
        </label>
      ))}
    </div>
  );
}

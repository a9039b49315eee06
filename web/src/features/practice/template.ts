import type { DeviceModel } from '../../api/types';
import { toNumber } from './parts';

/** Parts of a model's sheet while they are typed. */
export type TemplateDraft = {
  /** Groups of fields, each as it was typed. */
  lens: Record<'leastMm' | 'mostMm' | 'widestDeg' | 'narrowestDeg' | 'tallestDeg' | 'lowestDeg', string> & { set: string };
  pixels: Record<'wide' | 'high', string>;
  reset: Record<'leastSeconds' | 'mostSeconds' | 'at' | 'light', string>;
  stops: Record<'panLeast' | 'panGreatest', string>;
  cards: Record<'slots' | 'class' | 'mostGigabytes' | 'together', string>;
  /** Degrees and minutes, one pair after another. */
  box: { ambientC: string; minutes: string }[];
  seals: string[];
  fasteners: { part: string; drive: string; count: string; captive: boolean }[];
  surfaces: Record<string, string[]>;
};

export type TemplateParts = Pick<
  DeviceModel,
  'lens' | 'pixels' | 'reset' | 'stops' | 'cards' | 'boxCurve' | 'seals' | 'fasteners' | 'surfaces'
>;

const text = (value: number | string | null | undefined) => (value === null || value === undefined ? '' : String(value));

/** The parts of a model as fields; of a new one all empty. */
export function draftOf(model?: TemplateParts): TemplateDraft {
  const { lens, pixels, reset, stops, cards } = model ?? {};
  return {
    lens: {
      leastMm: text(lens?.leastMm),
      mostMm: text(lens?.mostMm),
      widestDeg: text(lens?.widestDeg),
      narrowestDeg: text(lens?.narrowestDeg),
      tallestDeg: text(lens?.tallestDeg),
      lowestDeg: text(lens?.lowestDeg),
      set: lens?.set ?? 'fixed',
    },
    pixels: { wide: text(pixels?.wide), high: text(pixels?.high) },
    reset: {
      leastSeconds: text(reset?.leastSeconds),
      mostSeconds: text(reset?.mostSeconds),
      at: reset?.at ?? '',
      light: reset?.light ?? '',
    },
    stops: { panLeast: text(stops?.panLeast), panGreatest: text(stops?.panGreatest) },
    cards: {
      slots: text(cards?.slots),
      class: cards?.class ?? '',
      mostGigabytes: text(cards?.mostGigabytes),
      together: cards?.together ?? '',
    },
    box: (model?.boxCurve ?? []).map((b) => ({ ambientC: text(b.ambientC), minutes: text(b.minutes) })),
    seals: [...(model?.seals ?? [])],
    fasteners: (model?.fasteners ?? []).map((f) => ({ part: f.part, drive: f.drive, count: text(f.count), captive: f.captive ?? false })),
    surfaces: Object.fromEntries((model?.surfaces ?? []).map((s) => [s.setting, [...s.at]])),
  };
}

class NotANumber extends Error {}

/** A number that must be there; NaN where it is none. */
function needed(typed: string): number {
  const number = toNumber(typed);
  if (number === null || Number.isNaN(number)) throw new NotANumber();
  return number;
}

function optional(typed: string): number | null {
  const number = toNumber(typed);
  if (Number.isNaN(number)) throw new NotANumber();
  return number;
}

/** Nothing of a group was typed: the sheet does not say. */
const isBlank = (group: Record<string, string>, but = '') => Object.entries(group).every(([key, typed]) => key === but || !typed.trim());

/** The parts as they are kept; null where a number is none, or is missing where another of its group is there. What they may be is said by
 * whoever keeps them. */
export function partsOf(draft: TemplateDraft): TemplateParts | null {
  const { lens, pixels, reset, stops, cards } = draft;
  try {
    return {
      lens: isBlank(lens, 'set')
        ? null
        : {
            leastMm: needed(lens.leastMm),
            mostMm: needed(lens.mostMm || lens.leastMm),
            set: lens.set as NonNullable<DeviceModel['lens']>['set'],
            widestDeg: optional(lens.widestDeg),
            narrowestDeg: optional(lens.narrowestDeg),
            tallestDeg: optional(lens.tallestDeg),
            lowestDeg: optional(lens.lowestDeg),
          },
      pixels: isBlank(pixels) ? null : { wide: needed(pixels.wide), high: needed(pixels.high) },
      reset: isBlank(reset)
        ? null
        : {
            leastSeconds: needed(reset.leastSeconds),
            mostSeconds: optional(reset.mostSeconds),
            at: reset.at.trim(),
            light: reset.light || null,
          },
      stops: isBlank(stops) ? null : { panLeast: needed(stops.panLeast), panGreatest: needed(stops.panGreatest) },
      cards: isBlank(cards)
        ? null
        : {
            slots: needed(cards.slots),
            class: cards.class.trim(),
            mostGigabytes: optional(cards.mostGigabytes),
            together: cards.together || null,
          },
      boxCurve: draft.box
        .filter((b) => b.ambientC.trim() || b.minutes.trim())
        .map((b) => ({ ambientC: needed(b.ambientC), minutes: needed(b.minutes) }))
        .sort((a, b) => a.ambientC - b.ambientC),
      seals: draft.seals,
      fasteners: draft.fasteners
        .filter((f) => f.drive.trim())
        .map((f) => ({ part: f.part, drive: f.drive.trim(), count: needed(f.count), captive: f.captive })),
      surfaces: Object.entries(draft.surfaces)
        .filter(([, at]) => at.length > 0)
        .map(([setting, at]) => ({ setting, at })),
    };
  } catch (problem) {
    if (problem instanceof NotANumber) return null;
    throw problem;
  }
}

/** A word taken into a list, or out of it; the order is that of all. */
export const toggledIn = (list: readonly string[], word: string, all: readonly string[]) =>
  list.includes(word) ? list.filter((w) => w !== word) : all.filter((w) => w === word || list.includes(w));

/** What stays not known: nothing that the sheet now says. */
export const stillUnknown = (unknown: Iterable<string>, parts: TemplateParts) =>
  [...unknown].filter((name) => {
    const said = parts[name as keyof TemplateParts];
    return Array.isArray(said) ? said.length === 0 : !said;
  });

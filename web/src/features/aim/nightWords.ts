import type { components } from '../../api/generated/schema';
import type { CardRow } from '../../api/types';
import { t } from '../../texts';
import { percent, within } from './focusWords';
import type { Live } from './words';

export type NightLook = components['schemas']['NightLook'];
export type NightTry = components['schemas']['NightTry'];
export type NightAct = components['schemas']['NightAct'];
type LampTold = components['schemas']['LampTold'];
type VeilTile = components['schemas']['VeilTile'];

/** Older than this a picture says nothing of what was just done, ms. */
export const STALE_NIGHT_MS = 8000;

/** What is told of the newest pictures, unless they are too old. */
export function nightState(live: Live | undefined, ageMs: number): NightLook['state'] | 'none' {
  const look = live?.night?.look;
  if (!look) return 'none';
  return live.isLive && ageMs > STALE_NIGHT_MS ? 'look' : look.state;
}

/** What the pictures would tell the row of its white light, field by field; what they do not show is not named. */
export function lampSays({ movement, colour, still }: LampTold): string {
  const said = Object.entries({ movement, colour, still }).filter(([, word]) => word !== null);
  return said.length === 0
    ? t('night.says-none')
    : t('night.lamp-says', said.map(([field, word]) => t(`field.light.white.${field}.${word}`)).join(', '));
}

/** How dense a tile is hatched: 0 not at all, 3 from three quarters of its light; null: nothing is known of it. */
export function hatch({ share }: VeilTile): 0 | 1 | 2 | 3 | null {
  return share === null ? null : share >= 0.75 ? 3 : share >= 0.5 ? 2 : share >= 0.25 ? 1 : 0;
}

/** What became of the veil when something was done. */
export const triedWords = ({ before, after, helped }: NightTry) =>
  after === null
    ? t('night.tried.waits')
    : `${percent(before)} \u2192 ${percent(after)}: ${t(`night.tried.${helped === null ? 'between' : helped ? 'yes' : 'no'}`)}`;

/** What the acts beneath are asked for: to be tried while light lies over it, to be told once it is gone; undefined: neither. */
export function triesAsk(state: NightLook['state'], next: readonly NightAct[], tries: readonly NightTry[]): string | undefined {
  if (next.length === 0 || state === 'look' || state === 'colour' || state === 'black') return undefined;
  return t(state === 'veiled' ? 'night.try' : tries.length === 0 ? 'night.gone' : 'night.gone-else');
}

/** How likely a reason is, never surer than a picture can be. */
export const chanceWords = (chance: number) => (chance > 0.95 ? '> 95 %' : chance < 0.05 ? '< 5 %' : percent(chance));

const none = () => t('night.figure.none');

/** Figures beside the veil, each with what it means; what cannot be told says so. */
export function figures(look: NightLook): { name: string; value: string; means: string }[] {
  const { sharpness, reach, black } = look;
  const means = (yes: boolean | null | undefined, of: string, not: string) =>
    yes === null || yes === undefined ? t('night.close') : t(yes ? of : not);
  return [
    {
      name: t('night.figure.sharp'),
      value: sharpness ? `${percent(sharpness.ratio)} \u00b1 ${within(sharpness.uncertainty)}` : none(),
      means: sharpness ? means(sharpness.isSoft, 'night.soft', 'night.as-sharp') : '',
    },
    { name: t('night.figure.lit'), value: reach ? percent(reach.light) : none(), means: '' },
    {
      name: t('night.figure.contrast'),
      value: reach?.contrastToNoise ? reach.contrastToNoise.toFixed(1) : none(),
      means: reach?.contrastToNoise ? means(reach.isSeen, 'night.seen', 'night.unseen') : '',
    },
    { name: t('night.figure.signal'), value: look.signalDb === null ? none() : `${look.signalDb.toFixed(0)} dB`, means: '' },
    { name: t('night.figure.known'), value: look.veil ? percent(look.veil.known) : none(), means: '' },
    { name: t('night.figure.black'), value: black ? `${black.centre}, ${black.ring}` : none(), means: '' },
    { name: t('night.figure.sides'), value: black ? `${black.left}, ${black.right}, ${black.top}, ${black.bottom}` : none(), means: '' },
  ];
}

const electric = new Set(['power.volts-at-device', 'power.watts-at-device', 'power.supply-volts', 'power.port-watts']);

/** Rows of volts and watts with the infrared on, those that were taken first. */
export const besideNight = (rows: readonly CardRow[]): CardRow[] =>
  rows
    .filter((row) => electric.has(row.check.id) && row.key.under === 'infraredOn' && (row.isDue || row.attempts.length > 0))
    .sort((a, b) => Number(b.attempts.length > 0) - Number(a.attempts.length > 0));

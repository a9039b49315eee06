import type { components } from '../../api/generated/schema';
import { t } from '../../texts';
import type { Live } from './words';

export type FocusLook = components['schemas']['FocusLook'];
export type SpotFocus = components['schemas']['SpotFocus'];
export type FocusState = FocusLook['state'];

/** Older than this a picture says nothing of how the ring stands now, ms: the largest pictures take a camera longer. */
export const STALE_FOCUS_MS = 6000;

/** What whoever turns the ring is told: by the picture, unless that is too old. */
export function focusState(live: Live | undefined, ageMs: number): FocusState | 'none' {
  const look = live?.focus?.look;
  if (!look) return 'none';
  return live.isLive && ageMs > STALE_FOCUS_MS ? 'look' : look.state;
}

/** What is said aloud. */
export const focusSentence = (live: Live | undefined, ageMs: number) => {
  const state = focusState(live, ageMs);
  return state === 'none' ? '' : t(`focus.said.${state}`);
};

/** Which earlier picture it is held against. */
export const againstWords = ({ isBeforeLock, isCovered }: components['schemas']['FocusAgainst']) =>
  isBeforeLock ? 'focus.against-lock' : isCovered === null ? 'focus.against-kept' : isCovered ? 'focus.against-on' : 'focus.against-off';

/** A share as whole percent; of something that is not there none. */
export const percent = (share: number | null | undefined) => (share === null || share === undefined ? '' : `${Math.round(share * 100)} %`);

/** How far a share may be off: so little that it rounds to nothing is not nothing. */
export const within = (share: number) => (share < 0.005 ? '< 1 %' : percent(share));

/** One part of the picture: how it is now, in words a row of a table has room for. */
export function spotWords({ now, ofBest, change }: SpotFocus): { name: string; now: string; then: string; isSoft: boolean } {
  const ratio = percent(change?.ratio);
  return {
    name: t(`focus.spot.${now.spot}`),
    now: now.detail === null ? t('focus.spot-flat') : percent(ofBest),
    then: change ? [ratio, t(`focus.change.${change.change}`)].filter(Boolean).join(', ') : '',
    isSoft: change?.change === 'softer',
  };
}

/** The trace as points of a line in a box one wide and one high, the sharpest at its top. */
export const tracePoints = (trace: readonly number[], most: number) =>
  trace.map((share, i) => ({ x: (most - trace.length + i) / Math.max(1, most - 1), y: 1 - Math.min(1, Math.max(0, share)) }));

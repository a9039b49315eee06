import type { components } from '../../api/generated/schema';
import { t } from '../../texts';

export type Live = components['schemas']['AimLive'];
/** What a camera is looked at for. */
export type Use = components['schemas']['AimUse'];
export type Look = components['schemas']['AimLook'];
export type Measured = components['schemas']['AimMeasure'];
export type Step = components['schemas']['AimStep'];

/** Older than this a picture says nothing of how the camera hangs now, ms. */
export const STALE_MS = 2000;

/** What whoever turns is told: by the picture, unless that is too old to turn by. */
export function stateOf(live: Live | undefined, ageMs: number): 'none' | 'look' | 'turn' | 'stop' {
  if (!live?.look) return 'none';
  if (live.isLive && ageMs > STALE_MS) return 'look';
  return live.look.state;
}

/** What is told of a camera that is looked at for this; looked at by somebody for something else, nothing. */
export const lookedAtFor = (use: Use, live: Live | undefined) => (live && (live.use === null || live.use === use) ? live : undefined);

/** Degrees as they are said: to a tenth, to a whole from ten on. */
export const degrees = (d: number) => (d >= 9.95 ? d.toFixed(0) : d.toFixed(1));

/** What is said aloud: one turn at a time, the largest first. */
export function sentence(live: Live | undefined, ageMs: number): string {
  const state = stateOf(live, ageMs);
  const [first] = live?.look?.steps ?? [];
  if (state === 'stop') return t('aim.said.stop');
  if (state === 'turn' && first) return t('aim.said.turn', t(`aim.way.${first.way}`), degrees(first.degrees));
  return state === 'none' ? '' : t('aim.said.look');
}

/** How the picture leans: which end of its horizon is low, and by how much. */
export const lean = ({ leanDeg }: Measured) =>
  leanDeg === 0 ? t('aim.level') : t('aim.roll', Math.abs(leanDeg).toFixed(1), t(leanDeg > 0 ? 'aim.roll-right' : 'aim.roll-left'));

/** Off, against what is allowed: in words and what is left. */
export const judged = ({ offDeg, off, spareDeg }: Measured, most: number) => ({
  off: t('aim.off', offDeg.toFixed(1), most),
  outcome: t(`aim.off.${off}`),
  rest: spareDeg === null ? '' : t(spareDeg >= 0 ? 'aim.spare' : 'aim.over', Math.abs(spareDeg).toFixed(1)),
});

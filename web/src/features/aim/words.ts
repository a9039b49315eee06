import type { components } from '../../api/generated/schema';
import { t } from '../../texts';

export type Live = components['schemas']['AimLive'];
export type Look = components['schemas']['AimLook'];
export type Step = components['schemas']['AimStep'];

/** Older than this a picture says nothing of how the camera hangs now, ms. */
export const STALE_MS = 2000;

/** What whoever turns is told: by the picture, unless that is too old to turn by. */
export function stateOf(live: Live | undefined, ageMs: number): 'none' | 'look' | 'turn' | 'stop' {
  if (!live?.look) return 'none';
  if (live.isLive && ageMs > STALE_MS) return 'look';
  return live.look.state;
}

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
export function lean(look: Look): string {
  // A camera turned clockwise about its axis sees the left end of the horizon low.
  const roll = -(look.rollDeg ?? 0);
  if (Math.abs(roll) <= (look.rollUncertaintyDeg ?? 0) || Math.abs(roll) < 0.05) return t('aim.level');
  return t('aim.roll', Math.abs(roll).toFixed(1), roll > 0 ? t('aim.roll-left') : t('aim.roll-right'));
}

/** Off, against what is allowed: in words and what is left. */
export function judged(look: Look, most: number): { off: string; outcome: string; rest: string } {
  const off = look.offDeg ?? 0;
  return {
    off: t('aim.off', off.toFixed(1), most),
    outcome: look.off ? t(`aim.off.${look.off}`) : '',
    rest: look.off === 'tooClose' ? '' : off <= most ? t('aim.spare', (most - off).toFixed(1)) : t('aim.over', (off - most).toFixed(1)),
  };
}

/** The word for a picture that says "stop", and at how many degrees it is taken back: twice the width at which it was said. */
export const staysUntil = (live: Live) => Math.max(0.2 * live.tolerance.offDeg, 4 * (live.look?.uncertaintyDeg ?? 0));

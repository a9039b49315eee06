import type { components } from '../../api/generated/schema';
import { say, t } from '../../texts';
import { percent } from './focusWords';

export type MotorLive = components['schemas']['MotorLive'];
type Travel = components['schemas']['MotorTravel'];
type Sweep = components['schemas']['MotorLook'];

/** Steps of the motor that are offered, as shares of its travel. */
export const STEPS = [-0.05, -0.01, 0.01, 0.05] as const;

/** Whether it is being driven through its focus. */
export const isSweeping = (sweep: Sweep | null) => sweep !== null && sweep.phase !== 'done' && sweep.phase !== 'failed';

/** Where something stands in a travel: 0 one end, 1 the other. */
export const shareOf = ({ least, most }: Travel, place: number) => (place - least) / (most - least);

/** What a sweep is at, or found; undefined where nobody asked for one. */
export function sweepWords(sweep: Sweep | null): string | undefined {
  if (!sweep) return undefined;
  const { phase, steps, planned } = sweep;
  return phase === 'failed'
    ? sweep.why
      ? say(sweep.why)
      : undefined
    : phase === 'done'
      ? t('motor.done', percent(sweep.ofBest ?? 0))
      : phase === 'back'
        ? t('motor.back')
        : t(`motor.${phase}`, steps.length, planned);
}

/** The places that were looked at, each with how sharp it was there as a share of the sharpest: from one end of the travel to the other. */
export function curve(travel: Travel, sweep: Sweep | null): { x: number; y: number }[] {
  const most = Math.max(...(sweep?.steps ?? []).map((s) => s.detail), 0);
  return (sweep?.steps ?? []).map((s) => ({ x: shareOf(travel, s.position), y: most > 0 ? s.detail / most : 0 })).sort((a, b) => a.x - b.x);
}

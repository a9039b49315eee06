import type { components } from '../../api/generated/schema';
import { t } from '../../texts';

export type SwayLook = components['schemas']['SwayLook'];

/** A percentage of the picture's width as it is said: to hundredths, to tenths from one on. */
export const share = (p: number) => (p >= 0.995 ? p.toFixed(1) : p.toFixed(2));

/** What to do, or what it came to: one word for it. */
export const swayState = ({ phase, measured, why }: SwayLook) =>
  phase !== 'done' ? phase : !measured ? 'nothing' : (measured.says ?? (why ? 'seen' : 'close'));

/** What is said aloud; each is said once. */
export const swaySentence = (look: SwayLook) => t(`sway.said.${swayState(look)}`);

/** Seconds that are left of a phase, as far as they can be told: it may take longer. */
export function secondsLeft({ phase, seconds, points }: SwayLook): number | null {
  if (phase !== 'handsOff' || points.length === 0) return null;
  return Math.max(0, Math.ceil(seconds - (points[points.length - 1]?.seconds ?? 0)));
}

/** Both ways that it moved, over time, in shares of a box; middle: where it was with hands off, its half height `half` percent. */
export function traces({ points, tolerance, measured }: Pick<SwayLook, 'points' | 'tolerance' | 'measured'>) {
  const first = points[0]?.seconds ?? 0;
  const span = Math.max(10, (points[points.length - 1]?.seconds ?? 0) - first);
  const untouched = points.filter((p) => !measured || p.seconds <= measured.seconds);
  const calm = untouched.length > 0 ? untouched : points;
  const mean = (of: (p: (typeof points)[number]) => number) => calm.reduce((sum, p) => sum + of(p), 0) / Math.max(1, calm.length);
  const [across, down] = [mean((p) => p.across), mean((p) => p.down)];
  const most = Math.max(...points.map((p) => Math.max(Math.abs(p.across - across), Math.abs(p.down - down))), 0);
  // Never so fine that grain looks like a storm.
  const half = Math.max(most * 1.1, tolerance.swayPercent);
  const line = (of: (p: (typeof points)[number]) => number) =>
    points.map((p) => ({ x: (p.seconds - first) / span, y: 0.5 + of(p) / (2 * half) }));
  return { half, across: line((p) => p.across - across), down: line((p) => p.down - down), allowed: tolerance.swayPercent / (4 * half) };
}

/** The figures, a line each, and whether each is in. */
export function swayFigures({ measured, tolerance }: SwayLook) {
  if (!measured) return [];
  const lines = [
    {
      text:
        measured.swayPixels === null
          ? t('sway.figure-less', share(measured.uncertaintyPercent))
          : t('sway.figure', share(measured.swayPercent), Math.max(1, Math.round(measured.swayPixels)), measured.pixelsWide),
      most: t('sway.most', share(tolerance.swayPercent)),
      is: measured.sway,
    },
  ];
  if (measured.staysPercent !== null && measured.stays !== null)
    lines.push({
      text: t('sway.back', share(measured.pushedPercent ?? 0), (measured.restSeconds ?? 0).toFixed(1), share(measured.staysPercent)),
      most: t('sway.most', share(tolerance.staysPercent)),
      is: measured.stays,
    });
  return lines;
}

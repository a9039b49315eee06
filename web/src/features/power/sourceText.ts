import type { PowerSwitch } from '../../api/types';

export const nameOf = (s: PowerSwitch) => [s.cabinet, s.figures.label].filter(Boolean).join(' ');

export const watts = (w: number | null | undefined) => (w === null || w === undefined ? '–' : w.toFixed(1));

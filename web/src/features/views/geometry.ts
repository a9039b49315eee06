import type { components } from '../../api/generated/schema';

export type Design = components['schemas']['ViewDesign'];
export type Figures = components['schemas']['ViewFigures'];
export type Target = components['schemas']['ViewTarget'];

/** As far as is drawn, metres: what is in the picture, every target, the light. */
export function farthest(design: Design, figures: Figures): number {
  const { farMetres } = figures.ground;
  const last = figures.bands.at(-1)?.toMetres ?? 0;
  const marks = [
    farMetres ?? 0,
    last,
    figures.infraredMetres ?? 0,
    ...design.targets.map((x) => x.groundMetres * 1.1),
    design.heightMetres * 2,
  ];
  const most = Math.max(...marks);
  // A horizon a mile away would leave nothing of what is near: as far as anybody looks is enough.
  const wanted = Math.max(...design.targets.map((x) => x.groundMetres * 1.4), design.heightMetres * 8, 20);
  return Math.min(most, Math.max(wanted, figures.ground.horizonInView ? wanted * 1.5 : Math.min(most, wanted * 4)));
}

/** Round distances for a scale, at most eight. */
export function ticks(most: number): number[] {
  const step = [1, 2, 5, 10, 20, 50, 100, 200, 500].find((s) => most / s <= 8) ?? 1000;
  return Array.from({ length: Math.floor(most / step + 1e-9) + 1 }, (_, i) => i * step);
}

/** Pixels for metres, one scale for both ways. */
export interface Scale {
  x: (metres: number) => number;
  y: (metres: number) => number;
  metres: (pixels: number) => number;
  per: number;
}

/** From above: the camera at the left, its axis to the right, its right side down. */
export function fromAbove(width: number, height: number, most: number, left: number): Scale {
  const per = (width - left - 12) / most;
  return { per, x: (m) => left + m * per, y: (m) => height / 2 + m * per, metres: (px) => px / per };
}

/** From the side: the ground below, the lens above it. Heights may be drawn larger than distances, so that a low camera is seen. */
export function fromSide(width: number, height: number, most: number, tallest: number, left: number): Scale & { rise: number } {
  const per = (width - left - 12) / most;
  const rise = Math.min((height - 40) / tallest, per * 4);
  return { per, rise, x: (m) => left + m * per, y: (m) => height - 24 - m * rise, metres: (px) => px / per };
}

/** The tilt that points a line at where somebody touched, degrees under level, to a tenth. */
export function tiltAt(heightMetres: number, groundMetres: number, aboveGround: number): number {
  const tilt = (Math.atan2(heightMetres - aboveGround, Math.max(0.01, groundMetres)) * 180) / Math.PI;
  return Math.round(Math.min(90, Math.max(-90, tilt)) * 10) / 10;
}

/** A number as it is kept: to a tenth, or to a hundredth below ten metres. */
export const kept = (metres: number) => (Math.abs(metres) < 10 ? Math.round(metres * 20) / 20 : Math.round(metres * 10) / 10);

/** A target moved, never behind or out of what may be said. */
export const moved = (target: Target, groundMetres: number, asideMetres: number): Target => ({
  ...target,
  groundMetres: kept(Math.min(2000, Math.max(0.1, groundMetres))),
  asideMetres: kept(Math.min(2000, Math.max(-2000, asideMetres))),
});

/** Marks of a band of detail: the finer, the closer its lines. */
export const spacing = (perMetre: number): number =>
  perMetre >= 250 ? 4 : perMetre >= 125 ? 6 : perMetre >= 60 ? 9 : perMetre >= 25 ? 13 : 18;

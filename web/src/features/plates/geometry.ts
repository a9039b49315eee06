import type { components } from '../../api/generated/schema';

export type Setting = components['schemas']['PlateSetting'];

/** Fields of the row with where they stand in the setting, and their units. */
export const fields = [
  ['plate', 'plateMetres', 'm'],
  ['camera', 'cameraMetres', 'm'],
  ['mounted', 'mountedMetres', 'm'],
  ['ahead', 'aheadMetres', 'm'],
  ['aside', 'asideMetres', 'm'],
  ['zone', 'zoneMetres', 'm'],
  ['pixels', 'pixelsWide', ''],
  ['field', 'fieldDeg', '°'],
  ['exposure', 'exposureMs', 'ms'],
  ['frames', 'framesPerSecond', ''],
  ['speed', 'kmh', 'km/h'],
] as const satisfies readonly (readonly [string, keyof Setting, string])[];

/** The lane from above, as it is drawn: everything in pixels of the drawing, the camera at the left. */
export function laneOf(setting: Setting, width: number, height: number) {
  const { aheadMetres: ahead, asideMetres: aside, zoneMetres: zone, fieldDeg } = setting;
  const long = ahead + zone + 2;
  // The camera's side of the road, a margin, and the lane whole.
  const wide = Math.abs(aside) + 3.2;
  const scale = Math.min(width / long, height / wide);
  const x = (m: number) => 14 + m * scale;
  const y = (m: number) => (aside < 0 ? height - 1.6 * scale : 1.6 * scale) + m * scale;
  // It looks at the middle of the zone.
  const middle = Math.atan2(aside, ahead);
  const reach = Math.hypot(ahead + zone / 2, aside) + 1;
  const edge = (side: number) => {
    const angle = middle + (side * fieldDeg * Math.PI) / 360;
    return [x(reach * Math.cos(angle)), y(reach * Math.sin(angle))] as const;
  };
  return {
    camera: [x(0), y(0)] as const,
    lane: { top: y(aside - 1.6), height: 3.2 * scale },
    zone: { left: x(Math.max(0, ahead - zone / 2)), width: zone * scale },
    plate: { x: x(ahead), from: y(aside - setting.plateMetres / 2), to: y(aside + setting.plateMetres / 2) },
    edges: [edge(-1), edge(1)] as const,
  };
}

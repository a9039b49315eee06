import { expect, it } from 'vitest';
import { fields, laneOf, type Setting } from './geometry';

const setting: Setting = {
  plateMetres: 0.52,
  cameraMetres: 1.4,
  mountedMetres: 0.5,
  aheadMetres: 7,
  asideMetres: 2,
  pixelsWide: 1920,
  fieldDeg: 32,
  exposureMs: 1,
  framesPerSecond: 25,
  zoneMetres: 3,
  kmh: 30,
};

it('asks for each figure of the setting once', () => {
  expect(fields.map(([, field]) => field).sort()).toEqual(Object.keys(setting).sort());
});

it('draws the lane beside the camera, the zone round the plate, and the plate within the field', () => {
  for (const aside of [2, -6, 0])
    for (const ahead of [1, 7, 60]) {
      const lane = laneOf({ ...setting, asideMetres: aside, aheadMetres: ahead }, 400, 130);
      const across = (lane.plate.from + lane.plate.to) / 2;
      expect(Math.sign(Math.round((across - lane.camera[1]) * 1000))).toBe(Math.sign(aside));
      expect(lane.plate.x).toBeLessThanOrEqual(414);
      expect(lane.plate.x).toBeGreaterThanOrEqual(lane.zone.left);
      expect(lane.plate.x).toBeLessThanOrEqual(lane.zone.left + lane.zone.width);
      // The lane is whole in the drawing.
      expect(lane.lane.top).toBeGreaterThanOrEqual(-0.001);
      expect(lane.lane.top + lane.lane.height).toBeLessThanOrEqual(130.001);
      // The line to the plate lies between both edges of the field.
      const angle = (to: readonly [number, number]) => Math.atan2(to[1] - lane.camera[1], to[0] - lane.camera[0]);
      const [left, right] = lane.edges.map(angle) as [number, number];
      const plate = angle([lane.plate.x, across]);
      expect(left).toBeLessThan(plate);
      expect(right).toBeGreaterThan(plate);
    }
});

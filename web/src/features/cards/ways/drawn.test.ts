import { describe, expect, it } from 'vitest';
import type { CardRow, PictureZone, WeekSpan } from '../../../api/types';
import { blank, corner, halfway, inserted, mostCorners, moved, pressed, removed, shifted } from './corners';
import { lastOf } from './Again';
import { week } from './week';
import { everyDay, hoursOf, painted, readHours, together, written } from './weekHours';

const span = (day: number, from: number, to: number): WeekSpan => ({ day, from: from * 60, to: to * 60 });

const square = (): PictureZone => blank('watch', 'Zone', []);

describe('a zone is drawn', () => {
  it('begins as a shape that lies in the picture, under a name of its own', () => {
    let zones: PictureZone[] = [];
    for (let i = 0; i < 20; i++) zones = [...zones, blank(i % 4 === 0 ? 'ownGround' : 'watch', i % 2 ? 'Zone' : 'zone', zones)];
    expect(new Set(zones.map((z) => z.name.toLowerCase())).size).toBe(20);
    expect(zones.flatMap((z) => z.points).every((p) => p.x >= 0 && p.x <= 1 && p.y >= 0 && p.y <= 1)).toBe(true);
    expect(zones.every((z) => new Set(z.points.map((p) => `${p.x} ${p.y}`)).size === 4)).toBe(true);
  });

  it('never leaves the picture, however far it is dragged', () => {
    expect(corner(-3, 1.2)).toEqual({ x: 0, y: 1 });
    const far = shifted(square(), 7, -7);
    expect(Math.max(...far.points.map((p) => p.x))).toBe(1);
    expect(Math.min(...far.points.map((p) => p.y))).toBe(0);
    // Its shape stays.
    const wide = (z: PictureZone) => z.points[1].x - z.points[0].x;
    expect(wide(far)).toBeCloseTo(wide(square()), 4);
  });

  it('takes corners from 3 to as many as the record takes', () => {
    let zone = square();
    for (let i = 0; i < 60; i++) zone = inserted(zone, 0);
    expect(zone.points).toHaveLength(mostCorners);
    for (let i = 0; i < 60; i++) zone = removed(zone, 0);
    expect(zone.points).toHaveLength(3);
    expect(halfway(square(), 3)).toEqual(corner(0.3, 0.65));
    expect(moved(square(), 2, corner(0.9, 0.9)).points[2]).toEqual({ x: 0.9, y: 0.9 });
  });

  it('is drawn by keys alone', () => {
    const at = (zone: PictureZone) => zone.points[0];
    expect(at(pressed(square(), 0, 'ArrowLeft', false)!.zone).x).toBeCloseTo(0.29, 6);
    expect(at(pressed(square(), 0, 'ArrowDown', true)!.zone).y).toBeCloseTo(0.502, 6);
    const more = pressed(square(), 3, '+', false)!;
    expect([more.zone.points.length, more.at]).toEqual([5, 4]);
    const less = pressed(more.zone, 4, 'Delete', false)!;
    expect([less.zone, less.at]).toEqual([square(), 3]);
    expect(pressed(square(), 0, 'Enter', false)).toBeNull();
    expect(pressed(square(), 0, 'x', false)).toBeNull();
  });
});

describe('hours of a week', () => {
  it('are not kept while one day cannot be read', () => {
    const whole = { recorded: [span(1, 0, 24)], wanted: null };
    expect(week.toReading({} as CardRow, { week: { ...whole, unread: {} } })).toEqual({ value: { kind: 'week', ...whole } });
    expect(week.toReading({} as CardRow, { week: { ...whole, unread: { '2': '22-6' } } })).toBeNull();
    expect(week.toReading({} as CardRow, {})).toBeNull();
  });

  it('are typed as people write them', () => {
    expect(readHours('6-22', 1)).toEqual([span(1, 6, 22)]);
    expect(readHours('06:00\u201322:00, 23-24', 2)).toEqual([span(2, 6, 22), span(2, 23, 24)]);
    expect(readHours('630-22', 1)).toEqual([{ day: 1, from: 390, to: 1320 }]);
    // What touches is one; none are none.
    expect(readHours('0-6 6-12 4-8', 7)).toEqual([span(7, 0, 12)]);
    expect(readHours(' ', 1)).toEqual([]);
    for (const wrong of ['22-6', '6', '6-25', '6-7-8', '6:70-8', 'all day', '24-24', '-', '6-']) expect(readHours(wrong, 1)).toBeNull();
  });

  it('are written as they are typed', () => {
    const spans = [span(1, 0, 24), span(3, 6, 22), { day: 3, from: 1395, to: 1440 }];
    for (const day of [1, 2, 3]) expect(readHours(written(spans, day), day)).toEqual(spans.filter((s) => s.day === day));
    expect(hoursOf(spans)).toBe(40.75);
  });

  it('are painted in and out', () => {
    let hours = painted([], 2, 600, 480, true);
    expect(hours).toEqual([span(2, 8, 10)]);
    hours = painted(hours, 2, 600, 720, true);
    expect(hours).toEqual([span(2, 8, 12)]);
    hours = painted(hours, 2, 540, 600, false);
    expect(hours).toEqual([span(2, 8, 9), span(2, 10, 12)]);
    expect(painted(hours, 3, 0, 60, false)).toEqual(hours);
    expect(everyDay(hours, 2)).toHaveLength(14);
    expect(everyDay(hours, 5)).toEqual([]);
    expect(together([...hours, ...hours])).toEqual(hours);
  });
});

describe('what was entered before is changed, not entered anew', () => {
  const zone = (name: string) => ({ kind: 'zones' as const, zones: [blank('watch', name, [])], picture: null });
  const attempt = (readingId: string, takenAt: string, value: object) =>
    ({ readingId, takenAt, value }) as unknown as CardRow['attempts'][number];

  it('begins from the reading that counts, else from the newest of its kind', () => {
    const attempts = [
      attempt('a', '2026-10-14T10:00:00Z', zone('A')),
      attempt('b', '2026-10-14T12:00:00Z', zone('B')),
      attempt('c', '2026-10-14T13:00:00Z', { kind: 'items', items: [] }),
      { ...attempt('d', '2026-10-14T14:00:00Z', zone('D')), standing: 'withdrawn' as const },
    ];
    expect(lastOf({ attempts, counts: 'a' }, 'zones')?.zones[0].name).toBe('A');
    expect(lastOf({ attempts, counts: null }, 'zones')?.zones[0].name).toBe('B');
    // Defined otherwise since: a reading of another kind is none to begin from.
    expect(lastOf({ attempts, counts: 'c' }, 'zones')?.zones[0].name).toBe('B');
    expect(lastOf({ attempts: [], counts: null }, 'zones')).toBeUndefined();
    expect(lastOf({ attempts, counts: 'a' }, 'week')).toBeUndefined();
  });
});

import { describe, expect, it } from 'vitest';
import type { OutboxItem } from '../../outbox/items';
import {
  asBase64,
  axisFrom,
  countNow,
  leftNow,
  marksOf,
  nextName,
  nextPass,
  onAxis,
  rowsToKeep,
  secondsUntil,
  speedsOf,
  tidy,
  waitingPasses,
  type Count,
  type Design,
  type Pass,
  type Plates,
  type Trial,
} from './driveWords';

const start = Date.parse('2026-10-14T21:00:00Z');
const at = (s: number) => new Date(start + s * 1000).toISOString();

const design: Design = {
  vehicles: [
    { name: 'A', plate: '46-TH-1207' },
    { name: 'B', plate: '46-TH-883' },
  ],
  speedsKmh: [20],
  lanes: [],
  bothWays: false,
  intervalSeconds: 30,
  rule: null,
  turnSeconds: 60,
  allowedMisses: 0,
  isAlone: false,
};

const pass = (number: number, s: number, vehicle: string, more: Partial<Pass> = {}): Pass => ({
  id: `p${number}`,
  number,
  vehicle,
  plate: '',
  at: at(s),
  isNight: true,
  kmh: 20,
  lane: null,
  way: 'towards',
  outcome: 'noList',
  read: null,
  offSeconds: null,
  slips: [],
  ...more,
});

const planned = (number: number, vehicle: string, findsRule = false, gapSeconds = 30, afterOwnSeconds = 38) => ({
  number,
  vehicle,
  kmh: 20,
  lane: null,
  way: 'towards' as const,
  gapSeconds,
  findsRule,
  afterOwnSeconds,
});

const count = (right: number, counted: number, low: number, high: number, more: number | null): Count => ({
  of: { code: 'drive.of.night', args: [] },
  passes: counted,
  counted,
  right,
  misread: 0,
  missed: counted - right,
  hidden: 0,
  rate: counted ? { percent: (100 * right) / counted, lowPercent: low, highPercent: high, verdict: 'needMorePasses' } : null,
  more,
});

const trial = (more: Partial<Trial> = {}): Trial => ({
  design,
  plan: { passes: [planned(1, 'A'), planned(2, 'B'), planned(3, 'A')], counted: 3, minutes: 1, byTable: 59 },
  requiredPercent: 95,
  isDark: true,
  left: 3,
  next: null,
  nextFrom: null,
  passes: [],
  lines: [],
  lists: [],
  rule: null,
  counts: [count(0, 0, 0, 0, 73), count(9, 10, 60, 98, 81)],
  told: [],
  ...more,
});

const item = (id: string, body: object, more: Partial<OutboxItem> = {}): OutboxItem => ({
  id,
  deviceId: 'd',
  path: '/plates/passes',
  body: { vehicle: 'A', takenAt: at(100), clockOffsetMs: 0, ...body },
  keptAt: 0,
  ...more,
});

describe('a drive', () => {
  it('counts what was ticked off without a network, once', () => {
    const waiting = waitingPasses(
      [
        item('a', { secondsBefore: 3, clockOffsetMs: 500 }),
        item('b', {}, { deviceId: 'other' }),
        item('c', {}, { path: '/readings' }),
        item('p1', {}),
        item('e', {}, { refused: { title: '', status: 422 } as never }),
      ],
      'd',
      [{ id: 'p1' }],
    );
    expect(waiting.map((w) => w.id)).toEqual(['a', 'e']);
    expect(waiting[0].at).toBe(start + 97_500);
    const next = nextPass(trial({ passes: [pass(1, 0, 'A')] }), waiting);
    // One is on record, one waits; the refused one was not driven.
    expect(next!.planned.number).toBe(3);
    expect(next!.from).toBe(start + 97_500 + 38_000);
  });

  it('takes the word of the record while everything is sent', () => {
    expect(nextPass(trial({ next: planned(2, 'B'), nextFrom: at(7) }), [])).toEqual({ planned: planned(2, 'B'), from: start + 7000 });
    expect(nextPass(trial({ next: planned(1, 'A') }), [])).toEqual({ planned: planned(1, 'A'), from: null });
    expect(nextPass(trial(), [])).toBeNull();
  });

  const here = (s: number, vehicle: string) => [{ id: 'w', vehicle, at: start + s * 1000, refused: false }];

  it('lets nobody come before a plate would be written down again, sent or not', () => {
    expect(nextPass(trial(), here(0, 'A'))).toEqual({ planned: planned(2, 'B'), from: null });
    expect(nextPass(trial({ passes: [pass(1, 0, 'A')] }), here(40, 'B'))!.from).toBe(start + 38_000);
    // By day nothing was driven yet; and where each pass is written down nobody waits.
    expect(nextPass(trial({ passes: [pass(1, 0, 'A', { isNight: false })] }), here(40, 'A'))!.planned.number).toBe(2);
    const free = { passes: [1, 2, 3].map((n) => planned(n, 'A', false, 30, 0)), counted: 3, minutes: 1, byTable: 59 };
    expect(nextPass(trial({ plan: free, passes: [pass(1, 0, 'A')] }), here(40, 'B'))!.from).toBeNull();
    expect(nextPass(trial({ passes: [pass(1, 0, 'A'), pass(2, 40, 'B')] }), here(80, 'A'))).toBeNull();
    expect(nextPass(trial({ plan: null }), here(0, 'A'))).toBeNull();
  });

  it('sends one early where that tells the rule', () => {
    const plan = { passes: [planned(1, 'A'), planned(2, 'A', true, 16.5, 16.5)], counted: 1, minutes: 1, byTable: 59 };
    expect(nextPass(trial({ plan }), here(10, 'A'))!.from).toBe(start + 26_500);
  });

  it('wants no more than the record does', () => {
    const refused = { ...here(0, 'A')[0], refused: true };
    expect(leftNow(trial({ left: 2 }), [...here(0, 'A'), refused])).toBe(1);
    expect(leftNow(trial({ left: 0 }), here(0, 'A'))).toBe(0);
    expect(leftNow(trial({ left: null }), [])).toBeNull();
    expect(nextPass(trial({ left: 1 }), here(0, 'A'))).toBeNull();
    expect(nextPass(trial({ left: null }), here(0, 'A'))).toBeNull();
  });

  it('counts down in whole seconds', () => {
    expect(secondsUntil(null, 5)).toBeNull();
    expect(secondsUntil(5000, 5000)).toBeNull();
    expect(secondsUntil(6200, 5000)).toBe(2);
  });

  it('tells of the light that it is', () => {
    expect(countNow(trial())!.right).toBe(9);
    expect(countNow(trial({ isDark: false }))!.counted).toBe(0);
  });

  it('shows all counts on one axis that holds what is asked', () => {
    const counts = [count(9, 10, 60, 98, 81), count(5, 10, 24, 76, null), count(0, 0, 0, 0, 73)];
    const from = axisFrom(counts, 95);
    expect(from).toBe(20);
    expect(axisFrom([count(73, 73, 95, 100, 0)], 95)).toBe(80);
    expect(axisFrom([], 5)).toBe(0);
    const axis = onAxis(counts[0], 95, from)!;
    expect(axis.low).toBeCloseTo(0.5);
    expect(axis.required).toBeCloseTo(0.9375);
    expect(onAxis(counts[2], 95, from)).toBeNull();
  });

  it('draws everything in the order that it happened', () => {
    const { marks, width } = marksOf(
      trial({
        passes: [pass(1, 0, 'A', { outcome: 'read' }), pass(2, 40, 'B', { outcome: 'missed' })],
        lines: [
          { at: at(1), text: '46TH1207', fate: 'pass', pass: 1 },
          { at: at(9), text: '46TH1207', fate: 'double', pass: null },
        ],
      }),
    );
    expect(marks.map((m) => [m.x, m.pass?.number, m.record?.fate])).toEqual([
      [13, 1, 'pass'],
      [39, undefined, 'double'],
      [65, 2, undefined],
    ]);
    expect(width).toBe(78);
    expect(marksOf(trial()).width).toBe(26);
    // Of another visit's list.
    const [earlier] = marksOf(trial({ passes: [pass(1, 0, 'A', { outcome: 'misread', read: '4GTH' })] })).marks;
    expect(earlier.record).toEqual({ text: '4GTH', fate: 'pass' });
  });

  it('puts on the Card only what it does not have', () => {
    const rows = [{ isKept: true }, { isKept: false }];
    expect(rowsToKeep({ rows } as Plates)).toEqual([{ isKept: false }]);
  });

  it('takes what is typed as it is meant', () => {
    expect(speedsOf('20, 40;60')).toEqual([20, 40, 60]);
    expect(speedsOf('fast')).toBeNull();
    const typed = { ...design, vehicles: [...design.vehicles, { name: ' ', plate: '' }], lanes: [' left ', ''] };
    expect(tidy(typed)).toMatchObject({ vehicles: design.vehicles, lanes: ['left'] });
    expect(nextName(design)).toBe('C');
    expect(nextName({ ...design, vehicles: [...'ABCDEFGH'].map((name) => ({ name, plate: '' })) })).toBe('');
  });

  it('sends a file of any size', async () => {
    const bytes = new Uint8Array(70_000).map((_, i) => i % 251);
    const file = { arrayBuffer: () => Promise.resolve(bytes.buffer) } as Blob;
    expect(Uint8Array.from(atob(await asBase64(file)), (c) => c.charCodeAt(0))).toEqual(bytes);
  });
});

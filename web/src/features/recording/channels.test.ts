import { expect, test } from 'vitest';
import { type ChannelLine, drawn, first, type ProofLine, sameArea } from './channels';

const proof = (over: Partial<ProofLine> = {}): ProofLine => ({
  at: '2026-10-14T16:07:00Z',
  way: 'walk',
  verdict: 'found',
  proves: true,
  seconds: 14,
  beginsLate: 0,
  because: [],
  picture: null,
  earlier: null,
  ...over,
});

const line = (number: number, over: Partial<ChannelLine> = {}): ChannelLine => ({
  number,
  finding: 'asPlanned',
  by: 'serial',
  deviceId: `d${number}`,
  label: `VL-0${number}`,
  placeName: '',
  area: 'Vehicle lanes',
  wanted: '',
  name: '',
  carries: '',
  isTold: true,
  needsHand: false,
  nameDiffers: false,
  state: 'live',
  when: 'motion',
  codec: '',
  wide: null,
  high: null,
  framesPerSecond: null,
  peakMbps: null,
  meanMbps: null,
  recordedPercent: null,
  before: [],
  after: [],
  isProvenAfter: null,
  isKept: null,
  pendingAt: null,
  isPendingAfter: false,
  notes: [],
  week: [],
  stream: [],
  clock: [],
  rang: null,
  ...over,
});

test('what nobody looked for is drawn as nothing, and what says neither as neither', () => {
  expect(drawn(undefined, false).kind).toBe('nothing');
  expect(drawn(undefined, true).kind).toBe('waits');
  expect(drawn(proof(), false)).toEqual({ kind: 'found', seconds: 14 });
  expect(drawn(proof({ proves: false }), false).kind).toBe('refused');
  expect(drawn(proof({ proves: null, verdict: null }), false).kind).toBe('neither');
  // Recorded again, and what was there before is gone.
  expect(drawn(proof({ earlier: false }), false).kind).toBe('refused');
});

test('an event may be seen by the whole area, and by nobody whose area is not known', () => {
  const lines = [line(1), line(2), line(3, { area: 'Gate' }), line(40, { area: '', deviceId: null })];
  expect(sameArea(lines, lines[0])).toEqual([1, 2]);
  expect(sameArea(lines, lines[3])).toEqual([]);
});

test('the most urgent stands open first', () => {
  expect(first([line(1, { before: [proof()] }), line(2), line(3, { needsHand: true })])?.number).toBe(3);
  expect(first([line(1, { before: [proof()] }), line(2)])?.number).toBe(2);
  expect(first([line(1, { before: [proof()] })])?.number).toBe(1);
  expect(first([])).toBeUndefined();
});

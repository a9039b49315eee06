import { describe, expect, it } from 'vitest';
import './cardTexts';

import type { CardRow, KitInstrument } from '../../api/types';
import { say, t } from '../../texts';
import { between } from '../../ui/format';
import { draftOf, toReading } from './ways';
import { instrumentTrouble, readWith } from './instrumentTrouble';

const row = {
  id: 'r',
  items: [],
  check: { id: 'power.volts-at-device', entry: 'number', unit: 'volt', decimals: 1, readTo: null },
} as unknown as CardRow;
const meter = {
  name: 'Meter 3',
  serial: 'MM-3',
  calibration: 'valid',
  calibrationDue: '2027-01-31',
  retired: false,
  inDoubt: [],
  reads: ['power.volts-at-device'],
  functions: [{ unit: 'volt', upTo: null, accuracy: { percentOfReading: 1, counts: 0, resolution: null, absolute: 0 } }],
} as unknown as KitInstrument;

describe('what tester or switch answered', () => {
  it('is cited, and what is typed over it is typed', () => {
    const draft = draftOf({ kind: 'number', value: 50.5, unit: 'volt' }, 'obs-1');
    expect(toReading(row, draft)).toMatchObject({ observationId: 'obs-1' });
    expect(toReading(row, { text: '49' })).toEqual({ text: '49' });
  });
});

describe('the instrument at hand', () => {
  it('is in order, or said not to be before anything is typed', () => {
    expect(instrumentTrouble(meter, row)).toBeNull();
    expect(instrumentTrouble({ ...meter, calibration: 'expired' }, row)).toBe(t('card.instrument-expired', 'Meter 3', '31 January 2027'));
    expect(instrumentTrouble({ ...meter, calibration: 'noRecord' }, row)).toContain('no calibration');
    expect(instrumentTrouble({ ...meter, calibration: 'testBeforeCalibration' }, row)).toContain('later');
    expect(instrumentTrouble({ ...meter, retired: true }, row)).toContain('out of use');
    expect(instrumentTrouble({ ...meter, inDoubt: ['volt'] }, row)).toContain('out at its last check');
    expect(instrumentTrouble({ ...meter, functions: [] }, row)).toContain('no accuracy');
    expect(instrumentTrouble(undefined, row)).toContain('No instrument');
  });
  it('says nothing of a row that is read by something else', () => {
    const slack = { ...row, check: { ...row.check, id: 'fixing.slack', unit: 'metre', readTo: 0.05 } } as CardRow;
    expect(readWith(meter, slack.check)).toBeUndefined();
    for (const held of [meter, { ...meter, retired: true }, undefined]) expect(instrumentTrouble(held, slack)).toBeNull();
  });
});

describe('texts', () => {
  it('fill each hole once, whatever stands in it', () => {
    expect(t('card.held', '{1}', 'b')).toContain('{1}');
    expect(say({ code: 'card.held', args: ['@@act.re-crimp', 'x'] })).toContain('@act.re-crimp');
    expect(say({ code: 'card.held', args: ['$&', '$1'] })).toContain('$&');
  });
});

describe('counters', () => {
  it('go on past their end, and never back', () => {
    expect(between(10, 25, 32)).toBe(15);
    expect(between(4294967290, 4, 32)).toBe(10);
    expect(between(7, 7, 64)).toBe(0);
  });
});

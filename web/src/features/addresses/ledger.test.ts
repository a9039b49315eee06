import { describe, expect, it } from 'vitest';
import { byArea, groupsOf, type LedgerLine, marksOf, nearest, readLogins, split } from './ledger';

const row = (key: string, standing: LedgerLine['standing'] = 'asPlanned') => ({ key, standing, deviceId: `d-${key}` }) as LedgerLine;

describe('the three lists', () => {
  it('puts the gravest first, what agrees apart, and what is silent last, each once', () => {
    const rows = [
      row('a', 'toLook'),
      row('b', 'asPlanned'),
      row('c', 'silent'),
      row('d', 'toMend'),
      row('e', 'toLook'),
      row('f', 'toMend'),
      row('g', 'unlooked'),
    ];
    const groups = groupsOf(rows);
    expect(groups.mend.map((r) => r.key)).toEqual(['d', 'f', 'a', 'e']);
    expect(groups.agree.map((r) => r.key)).toEqual(['b']);
    expect(groups.missing.map((r) => r.key)).toEqual(['c']);
    expect(groups.unlooked.map((r) => r.key)).toEqual(['g']);
    expect(Object.values(groups).flat()).toHaveLength(rows.length);
  });

  it('groups by area in the order in which areas come, and keeps who has none', () => {
    const areas = new Map([
      ['d-a', 'Pontoon'],
      ['d-b', 'Gate'],
      ['d-c', 'Pontoon'],
    ]);
    const groups = byArea([row('a'), row('b'), row('x'), row('c')], areas);
    expect(groups.map(([area, lines]) => [area, lines.map((l) => l.key)])).toEqual([
      ['Pontoon', ['a', 'c']],
      ['Gate', ['b']],
      ['', ['x']],
    ]);
  });

  it('draws marks of a kind in one stroke, and finds the one that was meant', () => {
    const marks = [
      { at: 4, kind: 'found' as const, key: 'a', name: 'A' },
      { at: 9, kind: 'found' as const, key: 'b', name: 'B' },
      { at: 5, kind: 'gateway' as const, key: '', name: '' },
      { at: 200, kind: 'double' as const, key: 'c', name: 'C' },
    ];
    expect(marksOf(marks).map(([kind, list]) => [kind, list.length])).toEqual([
      ['found', 2],
      ['gateway', 1],
      ['double', 1],
    ]);
    expect(nearest(marks, 5.4, 4)?.key).toBe('a');
    expect(nearest(marks, 7.2, 4)?.key).toBe('b');
    expect(nearest(marks, 100, 4)).toBeUndefined();
  });

  it('parts an address where it tells apart', () => {
    expect(split('10.46.8.29')).toEqual(['10.46.8.', '29']);
    expect(split('')).toEqual(['', '']);
  });
});

describe('pasted logins', () => {
  it('parts at the first two signs only, so that a password may hold any', () => {
    expect(readLogins('CC-01;site;a;b,c\n\n10.46.8.30,\tsite,"x"\nCC-03\tsite\tp w ')).toEqual({
      logins: [
        { at: 'CC-01', user: 'site', password: 'a;b,c' },
        { at: '10.46.8.30', user: 'site', password: '"x"' },
        { at: 'CC-03', user: 'site', password: 'p w ' },
      ],
      unread: [],
    });
  });

  it('says which lines it cannot read', () => {
    expect(readLogins('CC-01 site x\nCC-02,site,\n,site,x\nCC-04,site,y').unread).toEqual([1, 2, 3]);
  });
});

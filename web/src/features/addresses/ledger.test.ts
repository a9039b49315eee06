import { describe, expect, it } from 'vitest';
import { groupsOf, type LedgerRow, readLogins, split } from './ledger';

const row = (key: string, standing: LedgerRow['standing']) => ({ key, standing }) as LedgerRow;

describe('the three lists', () => {
  it('puts the gravest first, what agrees apart, and what is silent last, each once', () => {
    const rows = [
      row('a', 'toLook'),
      row('b', 'asPlanned'),
      row('c', 'silent'),
      row('d', 'toMend'),
      row('e', 'toLook'),
      row('f', 'toMend'),
    ];
    const groups = groupsOf(rows);
    expect(groups.mend.map((r) => r.key)).toEqual(['d', 'f', 'a', 'e']);
    expect(groups.agree.map((r) => r.key)).toEqual(['b']);
    expect(groups.missing.map((r) => r.key)).toEqual(['c']);
    expect(Object.values(groups).flat()).toHaveLength(rows.length);
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

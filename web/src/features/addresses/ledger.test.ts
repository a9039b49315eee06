import { describe, expect, it } from 'vitest';
import { groupsOf, keyOf, type LedgerLine, type LedgerRow, numberOf, readLogins, split, stripOf, toDo } from './ledger';

const found = (address: string, serial = 'TH1') =>
  ({ address, by: ['search'], port: 80, path: '', tls: false, endpoint: '', serial, streams: [], others: [] }) as unknown as NonNullable<
    LedgerRow['found']
  >;

const planned = (label: string, address: string) =>
  ({ id: `id-${label}`, label, name: '', address, mac: '', serial: '', firmware: '', isCamera: true }) as unknown as NonNullable<
    LedgerRow['planned']
  >;

const line = (row: Partial<LedgerRow>): LedgerLine => ({
  row: {
    planned: null,
    found: null,
    registered: null,
    class: 'inAllThree',
    foundBy: null,
    differences: [],
    notes: [],
    ...row,
  },
  isAsPlanned: false,
  path: null,
});

const note = (code: string, weight: 'wrong' | 'look' | 'told') => ({ code, args: [], weight, mend: null });

const plan = {
  subnet: '10.46.8.0/24',
  gateway: '10.46.8.1',
  poolFirst: '10.46.8.200',
  poolLast: '10.46.8.239',
  reserved: [
    { first: '10.46.8.2', last: '10.46.8.12', for: 'recorders' },
    { first: '10.46.9.2', last: '10.46.9.12', for: 'elsewhere' },
  ],
  factory: [],
  firstHostOffset: 13,
  gapEvery: 0,
  gapSize: 0,
  tester: '',
};

const look = { id: '', of: 'search', by: '', at: '', count: 1, isList: false };

describe('the three lists', () => {
  const ok = line({ planned: planned('CC-01', '10.46.8.29'), found: found('10.46.8.29') });
  const told = line({ planned: planned('CC-02', '10.46.8.30'), found: found('10.46.8.30'), notes: [note('ledger.search-off', 'told')] });
  const look2 = line({ planned: planned('CC-03', '10.46.8.31'), found: found('10.46.8.31'), notes: [note('asked.login-wanted', 'look')] });
  const wrong = line({
    planned: planned('CC-04', '10.46.8.32'),
    found: found('10.46.8.99'),
    notes: [note('ledger.address-differs', 'wrong')],
  });
  const silent = line({ planned: planned('CC-05', '10.46.8.33'), notes: [note('ledger.silent.no-link', 'wrong')] });
  const stranger = line({ found: found('10.46.8.120', 'KX1'), notes: [note('ledger.unknown-device', 'look')] });

  it('puts the gravest first, what agrees apart, and what is silent last', () => {
    const groups = groupsOf([look2, ok, wrong, silent, told, stranger], true);
    expect(groups.mend).toEqual([wrong, look2, stranger]);
    expect(groups.agree).toEqual([ok, told]);
    expect(groups.missing).toEqual([silent]);
  });

  it('calls nobody missing before anybody looked', () => {
    expect(groupsOf([line({ planned: planned('CC-05', '10.46.8.33') })], false)).toMatchObject({ mend: [], missing: [], agree: [{}] });
  });

  it('tells devices apart wherever they stand', () => {
    const listed = line({ registered: { recorder: 'R-1', channel: 40, name: 'old', mac: '', serial: '', address: '', key: '' } as never });
    expect(new Set([ok, stranger, listed].map((l) => keyOf(l.row))).size).toBe(3);
    expect(toDo(told.row)).toEqual([]);
  });

  it('draws the network address by address', () => {
    const away = line({ planned: planned('VL-09', '10.46.8.27'), found: found('10.46.9.27') });
    const twice = line({
      planned: planned('CC-10', '10.46.8.38'),
      found: found('10.46.8.39'),
      notes: [note('ledger.found.duplicateAddress', 'wrong')],
    });
    const strip = stripOf({ plan, rows: [ok, wrong, silent, stranger, away, twice], looks: [look] })!;
    expect(strip.size).toBe(256);
    expect(strip.marks.map((m) => [m.at, m.kind])).toEqual([
      [1, 'gateway'],
      [29, 'found'],
      [33, 'missing'],
      [39, 'double'],
      [99, 'wrong'],
      [120, 'unknown'],
    ]);
    expect(strip.pool).toEqual([[200, 239]]);
    expect(strip.reserved).toEqual([[2, 12, 'recorders']]);
    expect(strip.elsewhere).toEqual([{ address: '10.46.9.27', keys: ['id-VL-09'] }]);
  });

  it('draws nothing where no network can be read', () => {
    for (const subnet of ['', '10.46.8.0', '10.46.8.0/8', 'x/24', '10.46.8.300/24'])
      expect(stripOf({ plan: { ...plan, subnet }, rows: [], looks: [] }), subnet).toBeNull();
  });

  it('reads an address strictly', () => {
    expect(numberOf(' 10.46.8.29 ')).toBe(0x0a2e081d);
    for (const text of ['10.46.8', '10.46.8.256', '10.46.8.x', '', null, undefined]) expect(numberOf(text)).toBeNaN();
    expect(split('10.46.8.29')).toEqual(['10.46.8.', '29']);
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

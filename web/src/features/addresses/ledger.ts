import type { components } from '../../api/generated/schema';

type Schemas = components['schemas'];
export type NetworkLedger = Schemas['NetworkLedger'];
export type LedgerLine = Schemas['LedgerLine'];
export type LedgerRow = Schemas['LedgerRow'];
export type NetworkPlan = Schemas['NetworkPlan'];
export type GivenLogin = Schemas['GivenLogin'];
export type FoundBy = Schemas['FoundBy'];

/** Its own within the page: the place, else the address that answers, else the channel. */
export const keyOf = ({ planned, found, registered }: LedgerRow): string =>
  planned?.id ??
  (found ? `found ${found.address} ${found.serial ?? found.hardwareAddress ?? ''}` : `list ${registered!.recorder} ${registered!.channel}`);

/** What it is called in the list. */
export const nameOf = ({ planned, found, registered }: LedgerRow): string =>
  planned?.label ?? found?.name ?? registered?.name ?? found?.address ?? '';

/** What is told of it that somebody has to do something about, the gravest first. */
export const toDo = (row: LedgerRow) => row.notes.filter((n) => n.weight !== 'told');

export interface Groups {
  /** Those that something is wrong with, though they are there. */
  mend: LedgerLine[];
  /** Planned ones that do not answer. */
  missing: LedgerLine[];
  /** Those that nothing is wrong with. */
  agree: LedgerLine[];
}

/** Disagreements first, then what agrees, then what does not answer; each device in one group. */
export function groupsOf(lines: LedgerLine[], hasLooked: boolean): Groups {
  const groups: Groups = { mend: [], missing: [], agree: [] };
  for (const line of lines) {
    const { row } = line;
    if (row.planned && !row.found && hasLooked) groups.missing.push(line);
    else if (toDo(row).length > 0) groups.mend.push(line);
    else groups.agree.push(line);
  }
  const weight = (line: LedgerLine) => (line.row.notes.some((n) => n.weight === 'wrong') ? 0 : 1);
  groups.mend.sort((a, b) => weight(a) - weight(b));
  return groups;
}

/** The number of an address; NaN where it is none. */
export function numberOf(address: string | null | undefined): number {
  const parts = (address ?? '').trim().split('.');
  if (parts.length !== 4 || parts.some((p) => !/^\d{1,3}$/.test(p) || Number(p) > 255)) return NaN;
  return parts.reduce((n, p) => n * 256 + Number(p), 0);
}

/** The shared part of an address, and its last, which tells it apart. */
export function split(address: string): [string, string] {
  const at = address.lastIndexOf('.') + 1;
  return [address.slice(0, at), address.slice(at)];
}

export type MarkKind = 'found' | 'missing' | 'wrong' | 'double' | 'unknown' | 'planned' | 'gateway' | 'tester';

export interface Mark {
  /** From the network's own address on. */
  at: number;
  kind: MarkKind;
  /** Whose; empty for the gateway. */
  key: string;
  name: string;
}

export interface Strip {
  first: number;
  size: number;
  marks: Mark[];
  /** Ranges, from and to, within the network. */
  pool: [number, number][];
  reserved: [number, number, string][];
  /** Devices that answer elsewhere, by address. */
  elsewhere: { address: string; keys: string[] }[];
}

/** The network address by address: what is planned, found, double, unknown, silent; null where none is planned. */
export function stripOf(ledger: Pick<NetworkLedger, 'plan' | 'rows' | 'looks'>): Strip | null {
  const [network = '', bits = ''] = (ledger.plan?.subnet ?? '').trim().split('/');
  const [first, prefix] = [numberOf(network), Number(bits)];
  if (!ledger.plan || Number.isNaN(first) || !(prefix >= 16 && prefix <= 30)) return null;
  const size = 2 ** (32 - prefix);
  const within = (address: string | null | undefined) => {
    const at = numberOf(address) - first;
    return at >= 0 && at < size ? at : undefined;
  };
  const marks: Mark[] = [];
  const elsewhere = new Map<string, string[]>();
  const hasLooked = ledger.looks.some((l) => !l.isList);
  const gateway = within(ledger.plan.gateway);
  if (gateway !== undefined) marks.push({ at: gateway, kind: 'gateway', key: '', name: '' });
  const tester = within(ledger.plan.tester);
  if (tester !== undefined) marks.push({ at: tester, kind: 'tester', key: '', name: '' });
  for (const { row } of ledger.rows) {
    const key = keyOf(row);
    const name = nameOf(row);
    if (!row.found) {
      const at = within(row.planned?.address);
      if (at !== undefined) marks.push({ at, kind: hasLooked ? 'missing' : 'planned', key, name });
      continue;
    }
    const at = within(row.found.address);
    if (at === undefined) elsewhere.set(row.found.address, [...(elsewhere.get(row.found.address) ?? []), key]);
    else
      marks.push({
        at,
        kind: row.notes.some((n) => /duplicateAddress|factoryAddressShared|several-answer/.test(n.code))
          ? 'double'
          : !row.planned
            ? 'unknown'
            : row.notes.some((n) => n.weight === 'wrong')
              ? 'wrong'
              : 'found',
        key,
        name,
      });
  }
  const range = (from: string, to: string): [number, number] | undefined => {
    const [a, b] = [within(from), within(to)];
    return a !== undefined && b !== undefined && a <= b ? [a, b] : undefined;
  };
  const pool = range(ledger.plan.poolFirst, ledger.plan.poolLast);
  return {
    first,
    size,
    marks: marks.sort((a, b) => a.at - b.at),
    pool: pool ? [pool] : [],
    reserved: ledger.plan.reserved.flatMap((r) => {
      const made = range(r.first, r.last);
      return made ? [[...made, r.for] as [number, number, string]] : [];
    }),
    elsewhere: [...elsewhere].map(([address, keys]) => ({ address, keys })),
  };
}

/**
 * Logins as a custodian pastes them: a line each, label or address, user and password with comma, semicolon or tab between. A password may hold
 * any of these: only the first two part.
 */
export function readLogins(text: string): { logins: GivenLogin[]; unread: number[] } {
  const logins: GivenLogin[] = [];
  const unread: number[] = [];
  text.split(/\r?\n/).forEach((line, i) => {
    if (!line.trim()) return;
    const parts = /^\s*([^,;\t]+)[,;\t]\s*([^,;\t]*)[,;\t](.*)$/.exec(line);
    if (parts?.[1] && parts[2] && parts[3]) logins.push({ at: parts[1].trim(), user: parts[2].trim(), password: parts[3] });
    else unread.push(i + 1);
  });
  return { logins, unread };
}

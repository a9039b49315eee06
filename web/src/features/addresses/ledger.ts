import type { components } from '../../api/generated/schema';

type Schemas = components['schemas'];
export type NetworkLedger = Schemas['NetworkLedger'];
export type LedgerRow = Schemas['LedgerRow'];
export type LedgerLine = Schemas['LedgerLine'];
export type LedgerNote = Schemas['LedgerNote'];
export type NetworkStrip = Schemas['NetworkStrip'];
export type NetworkPlan = Schemas['NetworkPlan'];
export type PlanRead = Schemas['PlanRead'];
export type GivenLogin = Schemas['GivenLogin'];
export type FoundBy = Schemas['FoundBy'];

export interface Groups {
  /** Those that somebody has to do something about, the gravest first. */
  mend: LedgerLine[];
  /** Planned ones that do not answer. */
  missing: LedgerLine[];
  /** Planned ones that nobody has looked for in a way that they would answer. */
  unlooked: LedgerLine[];
  /** Those that nothing is wrong with. */
  agree: LedgerLine[];
}

/** Disagreements first, then what agrees, then what does not answer, as each row is said to stand. */
export const groupsOf = (rows: LedgerLine[]): Groups => ({
  mend: [...rows.filter((r) => r.standing === 'toMend'), ...rows.filter((r) => r.standing === 'toLook')],
  missing: rows.filter((r) => r.standing === 'silent'),
  unlooked: rows.filter((r) => r.standing === 'unlooked'),
  agree: rows.filter((r) => r.standing === 'asPlanned'),
});

/** By the area that each stands in, in the order in which the areas come. */
export function byArea(lines: LedgerLine[], areas: ReadonlyMap<string, string>): [string, LedgerLine[]][] {
  const groups = new Map<string, LedgerLine[]>();
  for (const line of lines) {
    const area = areas.get(line.deviceId ?? '') ?? '';
    const group = groups.get(area);
    if (group) group.push(line);
    else groups.set(area, [line]);
  }
  return [...groups];
}

export type Mark = NetworkStrip['marks'][number];

/** Marks by their kind: those of a kind are drawn in one stroke, however many they are. */
export function marksOf(marks: Mark[]): [Mark['kind'], Mark[]][] {
  const kinds = new Map<Mark['kind'], Mark[]>();
  for (const mark of marks) {
    const kind = kinds.get(mark.kind);
    if (kind) kind.push(mark);
    else kinds.set(mark.kind, [mark]);
  }
  return [...kinds];
}

/** The mark with a row that stands nearest to an address, no farther than so many addresses away. */
export function nearest(marks: Mark[], at: number, within: number): Mark | undefined {
  let best: Mark | undefined;
  for (const mark of marks)
    if (mark.key && Math.abs(mark.at - at) <= within && (!best || Math.abs(mark.at - at) < Math.abs(best.at - at))) best = mark;
  return best;
}

/** The shared part of an address, and its last, which tells it apart. */
export function split(address: string): [string, string] {
  const at = address.lastIndexOf('.') + 1;
  return [address.slice(0, at), address.slice(at)];
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

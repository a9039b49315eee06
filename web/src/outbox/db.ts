import Dexie, { type EntityTable } from 'dexie';
import type { Problem } from '../api/types';

/** An entry that was pressed here: kept first, sent after. */
export interface OutboxItem {
  /** Made here; the record knows a repeat by it. */
  id: string;
  /** Order of pressing. */
  seq?: number;
  deviceId: string;
  /** Path under /api/cards/{deviceId}. */
  path: string;
  body: Record<string, unknown>;
  /** A file that is sent as it is; what is said of it goes into the address. */
  file?: Blob;
  /** The row it concerns, for the Card. */
  row?: string;
  keptAt: number;
  /** How often the record failed at it. */
  tries?: number;
  /** Set when the record refused it: it waits to be mended or discarded. */
  refused?: Problem;
}

/** The last answer of an address, shown again without a network. */
export interface CachedAnswer {
  url: string;
  body: unknown;
  at: number;
}

export const db = new Dexie('walkdown') as Dexie & {
  outbox: EntityTable<OutboxItem, 'seq'>;
  answers: EntityTable<CachedAnswer, 'url'>;
};

db.version(1).stores({ outbox: '++seq, id, deviceId', answers: 'url' });
// Answers are let go of by their age; those kept under half of their address are none.
db.version(2)
  .stores({ outbox: '++seq, id, deviceId', answers: 'url, at' })
  .upgrade((tx) => tx.table('answers').clear());

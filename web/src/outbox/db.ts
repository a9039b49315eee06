import Dexie, { type EntityTable } from 'dexie';
import type { CachedAnswer, OutboxItem, TakenAnswer } from './items';

export const db = new Dexie('walkdown') as Dexie & {
  outbox: EntityTable<OutboxItem, 'seq'>;
  answers: EntityTable<CachedAnswer, 'url'>;
  along: EntityTable<TakenAnswer, 'url'>;
};

db.version(1).stores({ outbox: '++seq, id, deviceId', answers: 'url' });
// Answers are let go of by their age; those kept under half of their address are none.
db.version(2)
  .stores({ outbox: '++seq, id, deviceId', answers: 'url, at' })
  .upgrade((tx) => tx.table('answers').clear());

// What somebody took along stays until they put it away, however much else is seen since.
db.version(3).stores({ outbox: '++seq, id, deviceId', answers: 'url, at', along: 'url, jobId' });

// It is opened while the page is still being drawn: what is kept here is asked for in a moment. Where it cannot be, each asking says so.
void db.open().catch(() => {});

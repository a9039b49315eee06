import type { components } from '../../api/generated/schema';
import type { OutboxItem } from '../../outbox/items';

type Line = components['schemas']['PressedLine'];

/** How it stands with an event: not sent, its clip waits to be had, it was there or not, nobody can tell, or it is taken back. */
export type Stands = 'unsent' | 'waits' | 'proven' | 'refuted' | 'untold' | 'leaving';

export interface EventLine {
  id: string;
  at: string;
  way: Line['way'];
  stands: Stands;
}

/** The moment by the record's clock. */
const atOf = (item: OutboxItem) => new Date(Date.parse(item.body.takenAt as string) + (item.body.clockOffsetMs as number)).toISOString();

const standsOf = (line: Line): Stands =>
  line.waits ? 'waits' : line.proves === true ? 'proven' : line.proves === false ? 'refuted' : 'untold';

/** Events of one camera, the last first: what was pressed here and is not sent yet, and what the record has. */
export function eventLines(outbox: readonly OutboxItem[], deviceId: string, kept: readonly Line[]): EventLine[] {
  const own = outbox.filter((item) => item.deviceId === deviceId && !item.refused);
  const leaving = new Set(own.filter((item) => item.path === '/withdrawals').map((item) => item.body.of));
  const known = new Set(kept.map((line) => line.id));
  return [
    ...own
      .filter((item) => item.path === '/events' && !known.has(item.id))
      .map((item) => ({ id: item.id, at: atOf(item), way: item.body.way as Line['way'], stands: 'unsent' as const }))
      .reverse(),
    ...kept.map((line) => ({
      id: line.id,
      at: line.at,
      way: line.way,
      stands: leaving.has(line.id) ? ('leaving' as const) : standsOf(line),
    })),
  ];
}

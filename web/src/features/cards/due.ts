import type { CardRow } from '../../api/types';

/** Rows that are due, and those that were taken though they need not be; what may be taken is a press away. */
export const due = (rows: CardRow[], also?: string) =>
  rows.filter((r) => r.required || r.attempts.length > 0 || r.notes.length > 0 || r.exemptedBecause !== null || r.id === also);

import type { CardRow } from '../../api/types';

/** Rows that are due, and the one at hand; what may be taken is a press away. */
export const due = (rows: CardRow[], also?: string) => rows.filter((r) => r.isDue || r.id === also);

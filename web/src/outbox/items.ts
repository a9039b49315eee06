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

/** An answer that was taken along with its job: gzipped where the browser can, so that a site of thousands fits. */
export interface TakenAnswer {
  url: string;
  jobId: string;
  at: number;
  body: Uint8Array | string;
}

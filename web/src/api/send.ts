import { v7 } from 'uuid';
import { identity } from '../session/identity';
import { t } from '../texts';
import { NoNetworkError, ProblemError, tellSignedOut } from './client';
import { clockOffsetMs } from './clock';
import type { Problem } from './types';

/** What every entry carries. The id is made once a press, so that a repeat is harmless. */
export const entry = (id = v7()) => ({
  id,
  by: identity().personId ?? '',
  takenAt: new Date().toISOString(),
  clockOffsetMs: clockOffsetMs(),
});

/** What to say of a request that did not go well. */
export const troubleOf = (error: unknown): string =>
  error instanceof ProblemError ? error.problem.detail : error instanceof NoNetworkError ? t('ui.offline-write') : t('ui.failed');

/** A file sent as it is. */
export async function sendFile<T>(path: string, file: Blob): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, { method: 'POST', headers: { 'content-type': 'application/octet-stream' }, body: file });
  } catch {
    throw new NoNetworkError();
  }
  if (response.status === 401) tellSignedOut();
  const body: unknown = response.status === 204 ? undefined : await response.json().catch(() => null);
  if (!response.ok)
    throw new ProblemError(
      body && typeof body === 'object' && 'detail' in body
        ? (body as Problem)
        : { status: response.status, title: '', detail: t('problem.too-large') },
    );
  return body as T;
}

import createClient from 'openapi-fetch';
import { packedAnswer, unpacked } from './taken';
import { addressOf, keepAnswer, keptAnswer } from './cache';
import type { paths } from './generated/schema';
import type { Problem } from './types';

/** A refusal of the record, with its sentence. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

/** The record could not be reached at all. */
export class NoNetworkError extends Error {}

const signedOut = new Set<() => void>();

/** Hears that an answer said: nobody is signed in here. */
export const onSignedOut = (listener: () => void) => {
  signedOut.add(listener);
  return () => void signedOut.delete(listener);
};

/** Told by whoever asks the record without going through here. */
export const tellSignedOut = () => signedOut.forEach((listener) => listener());

/** What was answered last, or what was taken along, whichever is newer; what is older is not even unpacked. */
async function newest(address: string) {
  const [seen, taken] = await Promise.all([keptAnswer(address), packedAnswer(address)]);
  return taken && taken.at > (seen?.at ?? -Infinity) ? ((await unpacked(taken)) ?? seen) : seen;
}

/**
 * An answer that is here already, as the record would give it. It is not written as text to be read again: of a large site's Walk that
 * takes a phone longer than all the rest.
 */
function answerOf(body: unknown, at: number): Response {
  // A length says that there is something to read as JSON.
  const headers = { 'content-type': 'application/json', 'content-length': '1', 'x-kept': String(at) };
  return Object.defineProperty(new Response(null, { headers }), 'json', { value: () => Promise.resolve(body) });
}

/** Fetches; what was answered last is kept here and shown again when there is no network. */
async function keepingFetch(request: Request): Promise<Response> {
  const keeps = request.method === 'GET';
  const address = addressOf(request.url);
  let response: Response;
  try {
    response = await fetch(request);
  } catch {
    const kept = keeps && !request.signal.aborted ? await newest(address) : undefined;
    if (kept) return answerOf(kept.body, kept.at);
    throw new NoNetworkError();
  }
  if (response.status === 401) tellSignedOut();
  if (keeps && response.ok && response.headers.get('content-type')?.includes('json'))
    void response
      .clone()
      .json()
      .then((body) => keepAnswer(address, body, Date.now()))
      .catch(() => {});
  return response;
}

export const api = createClient<paths>({ baseUrl: window.location.origin, fetch: keepingFetch });

/** The data of an answer, or the problem as an error. */
export async function answered<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await call;
  if (data !== undefined && response.ok) return data;
  throw new ProblemError(asProblem(error, response.status));
}

/** Of what is answered with nothing: done, or the problem as an error. */
export async function accepted(call: Promise<{ error?: unknown; response: Response }>): Promise<void> {
  const { error, response } = await call;
  if (!response.ok) throw new ProblemError(asProblem(error, response.status));
}

export function asProblem(error: unknown, status: number): Problem {
  if (error && typeof error === 'object' && 'detail' in error) return { status, title: '', ...(error as object) } as Problem;
  return { status, title: '', detail: `${status}` };
}

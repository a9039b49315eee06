import { store } from '../outbox/store';

/** Answers that are only kept to be shown again without a network: so many, and so much of them. */
const MOST_ANSWERS = 1500;
const MOST_CHARACTERS = 40_000_000;

/** By the whole address: another question is another answer. */
export const addressOf = (url: string) => {
  const { pathname, search } = new URL(url);
  return pathname + search;
};

/** Where a Card is kept. */
export const cardAddress = (deviceId: string) => `/api/cards/${deviceId}`;

/** Progress of work, changes since a moment, a search: of no use a minute later. */
export const isWorthKeeping = (address: string) =>
  !/^\/api\/(progress\/|time\b)|\/walk\/changes\?|\/jobs\/[^/]+\/cards\?|\/find\?|\/trace\?/.test(address);

let puts = 0;

/**
 * Keeps an answer, and lets go of the oldest where there are too many. Never throws: a page that cannot keep an answer shows it all the
 * same.
 */
export async function keepAnswer(address: string, body: unknown, at: number): Promise<void> {
  if (!isWorthKeeping(address)) return;
  try {
    await (await store()).answers.put({ url: address, body, at });
    if (++puts % 50 === 0) await evict(MOST_ANSWERS);
  } catch {
    await evict(MOST_ANSWERS / 2).catch(() => {});
  }
}

/** Lets go of all but the newest answers, and of more where those are large. */
export async function evict(most: number): Promise<void> {
  const { answers } = await store();
  const newest = await answers.orderBy('at').reverse().primaryKeys();
  const gone = newest.slice(most);
  if (most > 0) {
    let characters = 0;
    await answers
      .orderBy('at')
      .reverse()
      .limit(most)
      .each((answer) => {
        characters += JSON.stringify(answer.body).length;
        if (characters > MOST_CHARACTERS) gone.push(answer.url);
      });
  }
  await answers.bulkDelete([...new Set(gone)]);
}

export async function keptAnswer(address: string) {
  try {
    return await (await store()).answers.get(address);
  } catch {
    return undefined;
  }
}

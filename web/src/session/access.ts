import { useQuery, type QueryClient } from '@tanstack/react-query';
import { answered, api, onSignedOut } from '../api/client';
import type { AccessAnswer, Right } from '../api/types';
import { forgetPictures } from '../api/taken';
import { store } from '../outbox/store';
import { setIdentity } from './identity';
import { readStored, writeStored } from './stored';

/** How one stands at the door. Kept on this device too: who was signed in stays so where there is no network. */
export const useAccess = () => useQuery({ queryKey: ['access'], queryFn: () => answered(api.GET('/api/access')), staleTime: 60_000 });

/** Whether whoever is here may do this. As long as that is not known nothing is hidden: the record refuses what may not be. */
export const mayDo = (access: AccessAnswer | undefined, right: Right) => !access?.me || access.me.rights.includes(right);

export const useMay = (right: Right) => mayDo(useAccess().data, right);

/** Who somebody who is signed in is in a job; undefined where nobody is, or where he is none of its people. */
export const personIn = (access: AccessAnswer | undefined, jobId: string | undefined) =>
  access?.me?.people.find((p) => p.jobId === jobId)?.personId;

/** A session that was ended elsewhere is noticed at the first answer that says so. */
export function hearSignOut(client: QueryClient) {
  onSignedOut(() => {
    const known = client.getQueryData<AccessAnswer>(['access']);
    if (!known?.mustSignIn) void client.invalidateQueries({ queryKey: ['access'] });
  });
}

/** Somebody else is here now: everything is asked for again, by his rights. */
export async function someoneElse(client: QueryClient) {
  await forgetWhoWasHere();
  client.removeQueries({ predicate: (query) => query.queryKey[0] !== 'access' && query.queryKey[0] !== 'texts' });
  await client.invalidateQueries();
}

/** The same with a page that begins anew. Nothing is asked for before it: a press on what would be shown until then would be lost. */
export async function someoneElseAnew() {
  await forgetWhoWasHere();
  window.location.assign('/');
}

async function forgetWhoWasHere() {
  await forgetWhatWasRead();
  setIdentity({ personId: undefined });
  writeStored(NEW_HERE, true);
}

const NEW_HERE = 'walkdown.new-here';

/** Whether somebody came in here and has not chosen yet what he measures with. */
export const isNewHere = () => readStored(NEW_HERE) === true;
export const noLongerNew = () => writeStored(NEW_HERE, undefined);

/** What this device kept to be read without a network goes with who read it; what is not sent yet stays. */
export async function forgetWhatWasRead() {
  try {
    const kept = await store();
    await Promise.all([kept.answers.clear(), kept.along.clear()]);
    await forgetPictures();
    if (typeof caches !== 'undefined') await caches.delete('plans');
  } catch {
    // There was no room to keep anything in either.
  }
}

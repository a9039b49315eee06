import { useEffect, useState } from 'react';
import type { db } from './db';
import { store } from './store';

/**
 * A query of the browser's own store that follows its changes, in all tabs. The store is fetched before the query runs, and not within
 * it: a query that waits for anything else is no longer followed.
 */
export function useLiveQuery<T>(query: (store: typeof db) => Promise<T>, deps: unknown[]): T | undefined {
  const [value, setValue] = useState<T>();
  useEffect(() => {
    let leave: (() => void) | undefined;
    let gone = false;
    void Promise.all([import('dexie'), store()]).then(([{ liveQuery }, opened]) => {
      if (gone) return;
      const subscription = liveQuery(() => query(opened)).subscribe({ next: setValue, error: () => setValue(undefined) });
      leave = () => subscription.unsubscribe();
    });
    return () => {
      gone = true;
      leave?.();
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, deps);
  return value;
}

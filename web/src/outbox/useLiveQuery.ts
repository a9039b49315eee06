import { useEffect, useState } from 'react';

/** A query of the browser's own store that follows its changes, in all tabs. */
export function useLiveQuery<T>(query: () => Promise<T>, deps: unknown[]): T | undefined {
  const [value, setValue] = useState<T>();
  useEffect(() => {
    let leave: (() => void) | undefined;
    let gone = false;
    void import('dexie').then(({ liveQuery }) => {
      if (gone) return;
      const subscription = liveQuery(query).subscribe({ next: setValue, error: () => setValue(undefined) });
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

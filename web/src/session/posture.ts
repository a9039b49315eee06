import { useSyncExternalStore } from 'react';

function useMedia(query: string) {
  return useSyncExternalStore(
    (changed) => {
      const media = window.matchMedia(query);
      media.addEventListener('change', changed);
      return () => media.removeEventListener('change', changed);
    },
    () => window.matchMedia(query).matches,
  );
}

/** In the hand: one Check a screen, under the thumb. */
export const useHand = () => useMedia('(max-width: 479px)');

/** At the cabinet: StopLine, checks and evidence side by side. */
export const useCabinet = () => useMedia('(min-width: 1152px)');

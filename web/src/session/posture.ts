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

/** In the hand: one Check a screen, under the thumb; a phone either way up, and a desk at 200 % and more. */
export const useHand = () => useMedia('(max-width: 599px), (max-height: 479px)');

/** A phone on its side: what is asked on the left, the keys on the right. */
export const useLying = () => useMedia('(max-height: 479px) and (min-width: 600px)');

/** Room for the checks and what proves them side by side. */
export const useBeside = () => useMedia('(min-width: 1000px)');

/** Room for all sections in the head of the page. */
export const useWideHead = () => useMedia('(min-width: 1152px)');

/** At the cabinet: StopLine, checks and evidence side by side. */
export const useCabinet = () => useMedia('(min-width: 1152px)');

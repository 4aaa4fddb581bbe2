import { useSyncExternalStore } from 'react';

const narrow = matchMedia('(width < 40rem)');
const listen = (changed: () => void) => {
  narrow.addEventListener('change', changed);
  return () => narrow.removeEventListener('change', changed);
};

/** True where there is room for one thing at a time only: below 640 pixels. */
export const useIsNarrow = (): boolean => useSyncExternalStore(listen, () => narrow.matches);

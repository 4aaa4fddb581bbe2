import { useSyncExternalStore } from 'react';

/** Tells whether the window is narrower than so many rem. */
function narrowerThan(rem: number) {
  const media = matchMedia(`(width < ${rem}rem)`);
  const listen = (changed: () => void) => {
    media.addEventListener('change', changed);
    return () => media.removeEventListener('change', changed);
  };
  return (): boolean => useSyncExternalStore(listen, () => media.matches);
}

/** True if there is room for one thing at a time only: below 640 pixels. */
export const useIsNarrow = narrowerThan(40);

/** True if columns do not fit beside each other: below 1024 pixels. */
export const useIsSmall = narrowerThan(64);

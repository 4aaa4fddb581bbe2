import { useSyncExternalStore } from 'react';

/** The choice is kept under this name; public/theme.js reads it before the first paint. */
const KEY = 'tambur.theme';

const subscribe = (changed: () => void) => {
  const observer = new MutationObserver(changed);
  observer.observe(document.documentElement, { attributes: true, attributeFilter: ['class'] });
  return () => observer.disconnect();
};

/** True in the dark theme. Canvases draw again when it changes. */
export const useIsDark = () =>
  useSyncExternalStore(subscribe, () => document.documentElement.classList.contains('dark'));

export function setDark(dark: boolean): void {
  localStorage.setItem(KEY, dark ? 'dark' : 'light');
  document.documentElement.classList.toggle('dark', dark);
}

/** A colour token's value, for canvases. */
export const colour = (token: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${token}`).trim();

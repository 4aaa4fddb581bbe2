import { useHotkeys } from 'react-hotkeys-hook';

/** Roles in which a key is ours too: only where text is typed does it belong to the field. */
const ALSO_IN = ['slider', 'radio', 'option'] as const;

/** Calls `handler` when one of `keys` (see react-hotkeys-hook) is pressed anywhere but in a text field. */
export const useKey = (
  keys: string,
  handler: (event: KeyboardEvent) => void,
  /** `useKey` listens for the sign that is typed, wherever the keyboard has it. */
  options: { readonly preventDefault?: boolean; readonly useKey?: boolean } = {},
) => useHotkeys(keys, handler, { enableOnFormTags: ALSO_IN, ...options });

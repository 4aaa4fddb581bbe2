import { useHotkeys } from 'react-hotkeys-hook';

/** Roles in which a key is ours too: only where text is typed does it belong to the field. */
const ALSO_IN = ['slider', 'radio', 'option'] as const;

export interface KeyOptions {
  readonly preventDefault?: boolean;
  /** Listens for the sign that is typed, wherever the keyboard has it. */
  readonly useKey?: boolean;
  /** Also while text is typed. */
  readonly isEverywhere?: boolean;
}

/** Calls `handler` when one of `keys` (see react-hotkeys-hook) is pressed anywhere but in a text field. */
export const useKey = (
  keys: string,
  handler: (event: KeyboardEvent) => void,
  { isEverywhere = false, ...options }: KeyOptions = {},
) => useHotkeys(keys, handler, { enableOnFormTags: isEverywhere || ALSO_IN, ...options });

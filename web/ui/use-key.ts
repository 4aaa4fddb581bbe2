import { useHotkeys } from 'react-hotkeys-hook';

/** Roles in which a key is ours too: only where text is typed does it belong to the field. */
const ALSO_IN = ['slider', 'radio', 'option'] as const;

export interface KeyOptions {
  readonly preventDefault?: boolean;
  /** Listens for the sign that is typed, wherever the keyboard has it. */
  readonly useKey?: boolean;
  /** Also while text is typed. */
  readonly isEverywhere?: boolean;
  /** Of a dialog, not of the page below. */
  readonly isInDialog?: boolean;
}

const hasDialog = (): boolean => document.querySelector('[role=dialog]') !== null;

/**
 * Calls `handler` when one of `keys` (see react-hotkeys-hook) is pressed anywhere but in a text field. Below an open
 * dialog the page hears no keys.
 */
export const useKey = (
  keys: string,
  handler: (event: KeyboardEvent) => void,
  { isEverywhere = false, isInDialog = false, ...options }: KeyOptions = {},
) =>
  useHotkeys(keys, handler, {
    enableOnFormTags: isEverywhere || ALSO_IN,
    ignoreEventWhen: () => hasDialog() !== isInDialog,
    ...options,
  });

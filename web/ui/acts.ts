import { useEffect, useId, useRef } from 'react';
import { createStore } from 'zustand';
import { type KeyOptions, useKey } from './use-key.ts';

/** Something that can be done, in a menu or in the list of everything. */
export interface Act {
  readonly label: string;
  /** The key that does it too, as it is written. */
  readonly shown?: string;
  readonly isOff?: boolean;
  readonly go: () => void;
}

/** A key: as the page listens for it (see react-hotkeys-hook), as it is written, and what it does. */
export interface Key {
  readonly keys: string;
  readonly shown: string;
  readonly does: string;
}

/** Everything that can be done now, by who offers it. */
export const offered = createStore<ReadonlyMap<string, readonly Act[]>>(() => new Map());

/** Offers acts in the list of everything, as long as the component is there. */
export function useActs(acts: readonly Act[]): void {
  const id = useId();
  // They are called as they are now, but told of again only when they are called otherwise.
  const latest = useRef(acts);
  latest.current = acts;
  const words = JSON.stringify(acts.map(({ label, shown, isOff }) => [label, shown, isOff]));
  // biome-ignore lint/correctness/useExhaustiveDependencies: see above
  useEffect(() => {
    const told = latest.current.map((act, i) => ({ ...act, go: () => latest.current[i]?.go() }));
    offered.setState((before) => new Map([...before, [id, told]]), true);
    return () => offered.setState((before) => new Map([...before].filter(([other]) => other !== id)), true);
  }, [id, words]);
}

/** Does something when a key is pressed anywhere but in a text field, and offers it in the list of everything. */
export function useAct(
  { keys, shown, does }: Key,
  go: (event?: KeyboardEvent) => void,
  options: KeyOptions = {},
): void {
  useKey(keys, go, options);
  useActs([{ label: does, shown, go: () => go() }]);
}

import { type ChangeEvent, type FocusEvent, type KeyboardEvent, useState } from 'react';

/**
 * Text that counts only once it is finished: on Enter or when its field is left. Escape puts back what stood there.
 * @param shown what stands there until something is typed; replaces what is typed when it changes from outside
 * @param take is given what was typed; returns what is to stand there from now on, or null to put back what did
 */
export function useDraft(shown: string, take: (text: string) => string | null) {
  const [text, setText] = useState(shown);
  const [known, setKnown] = useState(shown);
  if (shown !== known) {
    setKnown(shown);
    setText(shown);
  }
  const settle = (typed: string) => {
    if (typed !== shown) setText(take(typed) ?? shown);
  };
  return {
    value: text,
    onChange: (event: ChangeEvent<HTMLInputElement>) => setText(event.target.value),
    onBlur: (event: FocusEvent<HTMLInputElement>) => settle(event.target.value),
    onKeyDown: (event: KeyboardEvent<HTMLInputElement>) => {
      if (event.key === 'Enter') settle(event.currentTarget.value);
      if (event.key === 'Escape') setText(shown);
    },
  };
}

/** One entry of a document as a form asks for it. */
export interface Field {
  /** Its key in what it belongs to. */
  readonly key: string;
  readonly label: string;
  readonly unit?: string;
  readonly type: 'number' | 'text' | 'flag' | 'list' | 'rates' | 'choice' | 'choices';
  readonly optional?: boolean;
  /** For choices. */
  readonly options?: () => readonly { readonly value: string; readonly label: string }[];
}

/** Choices from words by their values. */
export const choicesOf = (words: Readonly<Record<string, string>>) => () =>
  Object.entries(words).map(([value, label]) => ({ value, label }));

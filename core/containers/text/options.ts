import { isKept } from './keywords.ts';

/** Options of the text forms; each uses those that apply to it. */
export interface TextOptions {
  /** Stands between an array and its values, such as `PROGMEM`. */
  readonly storageAttribute: string;
  /** Empty: made from the file's name. */
  readonly arrayName: string;
  /** Empty: the usual one for the encoding, such as `uint8_t`. */
  readonly elementType: string;
  /** Characters in a line at most. */
  readonly lineWidth: number;
  readonly numbers: 'decimal' | 'hex';
  /** True: constants for rate, channels and length stand before the array. */
  readonly constants: boolean;
  /** True: a C header may be included twice. */
  readonly guard: boolean;
  /** Of the first byte, for forms that have addresses. */
  readonly address: number;
}

/** Options of every form that is an array of numbers. */
export const ARRAY_OPTIONS = [
  'arrayName',
  'lineWidth',
  'numbers',
  'constants',
] as const satisfies (keyof TextOptions)[];

export const USUAL_TEXT: TextOptions = {
  storageAttribute: '',
  arrayName: '',
  elementType: '',
  lineWidth: 100,
  numbers: 'decimal',
  constants: true,
  guard: true,
  address: 0,
};

/** An identifier made of any text: letters, digits and underscores, no digit in front, no word that a language or a player keeps. */
export function safeIdentifier(text: string): string {
  const plain = (text.match(/[A-Za-z0-9]+/g) ?? ['clip']).join('_');
  return /^[0-9]/.test(plain) || isKept(plain) ? `clip_${plain}` : plain;
}

/** Why input could not be used. Stable: the API and the command line report these codes. */
export type InputErrorCode =
  | 'empty-file'
  | 'not-audio'
  | 'header-cut-off'
  | 'no-frames'
  | 'unsupported-codec'
  | 'damaged'
  | 'cut-order'
  | 'cut-outside'
  | 'bad-setting'
  | 'unknown-target'
  | 'unknown-variant'
  | 'bad-document'
  | 'newer-format'
  | 'too-large'
  | 'cannot-read'
  | 'cannot-write';

/**
 * Input that cannot be used. `message` is one sentence for a person: what is wrong, where, and what to do.
 * Readers, stations and adapters throw nothing else for what a user can mend.
 */
export class InputError extends Error {
  readonly code: InputErrorCode;

  constructor(code: InputErrorCode, message: string) {
    super(message);
    this.name = 'InputError';
    this.code = code;
  }
}

/** What anything thrown says, in words: the message of an error, and whatever else was thrown as text. */
export const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

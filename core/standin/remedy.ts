/** What to do about something that is wrong. */
export interface Remedy {
  readonly words: string;
  /** Where it is done: in the job, in the sheet, with the files of the card, or at the device. */
  readonly where: 'job' | 'sheet' | 'card' | 'device';
  /** The station that does it, and what to wish there; left out if none does. */
  readonly station?: string;
  readonly wish?: 'automatic' | Readonly<Record<string, unknown>>;
}

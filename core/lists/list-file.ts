import * as v from 'valibot';
import { idSchema } from '../forms/index.ts';

/** Names that some file systems keep for devices, with or without an extension (common practice, no source). */
export const DEVICES = /^(con|prn|aux|nul|com\d|lpt\d)(\.|$)/i;

/** A path on a card: folders and a name, with letters, digits, dots, hyphens and underscores. */
export const cardPath = v.pipe(
  v.string(),
  v.regex(
    /^(\w[\w.-]{0,59}\/)*\w[\w.-]{0,59}$/,
    'a path has names of letters, digits, dots, hyphens and underscores, joined by slashes',
  ),
  v.maxLength(120),
  v.check(
    (path) => !path.split('/').some((name) => DEVICES.test(name)),
    'some systems keep names such as con, aux and com1 for devices; choose another',
  ),
);

const text = v.string();

/** What stands around the rows; the rows show fields in braces, see `ListRow`. */
const template = { header: text, row: text, footer: text };

export const TEXT_ENCODINGS = ['utf-8', 'utf-16le', 'latin-1'] as const;
export const LINE_ENDS = ['\n', '\r\n'] as const;
export const ESCAPES = ['none', 'csv', 'xml'] as const;

/** A text file that the device reads to find its sounds. */
export const listFileSchema = v.strictObject({
  key: idSchema,
  path: cardPath,
  text: v.picklist(TEXT_ENCODINGS),
  lineEnd: v.picklist(LINE_ENDS),
  /** How what a name holds is kept apart from what the list means. */
  escape: v.picklist(ESCAPES),
  ...template,
  /** A row for each file, or one for each place that a file fills. */
  per: v.picklist(['file', 'place']),
});

/** One file that holds the sounds of the whole set, in source code or JSON: they are no files of their own. */
export const packSchema = v.variant('form', [
  v.strictObject({
    key: idSchema,
    path: cardPath,
    form: v.literal('source'),
    /** Stands before the rows and after the sounds. */
    index: text,
    ...template,
  }),
]);

export type ListFile = v.InferOutput<typeof listFileSchema>;
export type Pack = v.InferOutput<typeof packSchema>;

/** What a list file is like where nothing else is said. */
export const USUAL_LIST = {
  text: 'utf-8',
  lineEnd: '\n',
  escape: 'none',
  header: '',
  row: '{displayName}\t{fileName}',
  footer: '',
  per: 'file',
} as const satisfies Omit<ListFile, 'key' | 'path'>;

/** What a row can show. */
export interface ListRow {
  readonly displayName: string;
  readonly fileName: string;
  readonly stem: string;
  /** The stem as a name in source code. */
  readonly identifier: string;
  readonly slot: number;
  readonly frames: number;
  readonly bytes: number;
  /** Bytes of encoded sound alone. */
  readonly soundBytes: number;
  readonly sampleRate: number;
  /** With three decimals. */
  readonly seconds: string;
}

/** Every field that a row can show. */
export const ROW_FIELDS = [
  'displayName',
  'fileName',
  'stem',
  'identifier',
  'slot',
  'frames',
  'bytes',
  'soundBytes',
  'sampleRate',
  'seconds',
] as const satisfies readonly (keyof ListRow)[];

/** Fields in braces; other braces are text. */
export const FIELD = new RegExp(`\\{(${ROW_FIELDS.join('|')})\\}`, 'g');

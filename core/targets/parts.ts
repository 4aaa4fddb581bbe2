import * as v from 'valibot';
import { idSchema, inForm } from '../forms/index.ts';
import { faces } from '../standin/index.ts';

/** What a blank is filled with. */
export const valueSchema = v.union([v.pipe(v.number(), v.finite()), v.pipe(v.string(), v.maxLength(1000))]);
/** Values of one document. */
export const MOST_VALUES = 200;
export const valuesSchema = v.pipe(
  v.record(idSchema, valueSchema),
  v.maxEntries(MOST_VALUES, `it must have ${MOST_VALUES} entries or fewer`),
);

export type Value = v.InferOutput<typeof valueSchema>;
export type Values = Readonly<Record<string, Value>>;

const words = v.pipe(v.string(), v.nonEmpty(), v.maxLength(200));

/** A value that belongs to a job or to a clip, and not to the device: a tempo, the size of the sound that is replaced. */
export const blankSchema = v.strictObject({
  id: idSchema,
  /** "What is the tempo?" */
  question: words,
  level: v.picklist(['job', 'clip']),
  /** What counts where nobody says. */
  usual: valueSchema,
  /** Where in the sheet it goes: the key of a part, and a JSON pointer within that (RFC 6901). */
  at: v.pipe(
    v.array(
      v.strictObject({
        key: idSchema,
        pointer: v.pipe(
          v.string(),
          v.regex(/^(\/[^/]+)*$/, 'a pointer is written as /tempo or /anyOf/0, and is empty for the part itself'),
        ),
      }),
    ),
    v.minLength(1),
    v.maxLength(20, 'a blank is filled in at 20 places at most'),
  ),
});

/** Where the device keeps sounds: buttons, numbers, channels, switch positions. */
export const placesSchema = v.strictObject({
  /** What the device calls one: "button"; other words for the same after it. */
  words: inForm(v.pipe(v.array(v.pipe(v.string(), v.nonEmpty(), v.maxLength(30))), v.minLength(1)), {
    label: 'Called',
    usual: ['slot'],
  }),
  /** Number of the first. */
  first: inForm(v.pipe(v.number(), v.integer(), v.minValue(0)), { label: 'Number of the first', usual: 1 }),
  /** How many there are; left out if it is not known. */
  count: v.optional(inForm(v.pipe(v.number(), v.integer(), v.minValue(1)), { label: 'How many' })),
  /** Names of places, by their numbers: "4": "horn". */
  labels: v.record(v.pipe(v.string(), v.regex(/^\d{1,6}$/, 'a place is named by its number')), words),
});

/** How the device is operated: which face, and what is particular to it. */
export const faceSchema = v.variant(
  'id',
  faces.map(({ id, schema }) => v.strictObject({ id: v.literal(id), options: schema })),
  `there is no such face; there are ${faces.map(({ id }) => id).join(', ')}`,
);

const sha256 = v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/, 'a SHA-256 has 64 hexadecimal digits'));

/** What a part of the sheet is known from: a file that played or did not, or the answer to a probe. */
export const evidenceSchema = v.strictObject({
  id: idSchema,
  /** The parts that it speaks for. */
  keys: v.array(idSchema),
  withdrawn: v.boolean(),
  odds: v.optional(v.pipe(v.number(), v.minValue(0), v.maxValue(1))),
  from: v.union([
    v.strictObject({ sha256, played: v.boolean() }),
    v.strictObject({ probe: idSchema, file: words, answer: words, by: v.picklist(['tick', 'recording']) }),
  ]),
});

export const namingSchema = v.strictObject({
  /** Stands between the words of a file's name. */
  separator: v.picklist(['-', '_']),
});

export type Blank = v.InferOutput<typeof blankSchema>;
export type Places = v.InferOutput<typeof placesSchema>;
export type Face = v.InferOutput<typeof faceSchema>;
export type SheetEvidence = v.InferOutput<typeof evidenceSchema>;

/** The path of a place within a document, as an issue of the schema states it. */
export const pathTo = (...keys: readonly (string | number)[]): [v.IssuePathItem, ...v.IssuePathItem[]] =>
  keys.map((key) => ({ type: 'unknown', origin: 'value', input: undefined, key, value: undefined })) as never;

/** Numbers and dots: "2.1", "10.0.3". */
export const versionSchema = v.pipe(
  v.string(),
  v.trim(),
  v.regex(/^\d{1,9}(\.\d{1,9}){0,5}$/, 'a firmware is written as 2.1'),
);

/** For which firmware a variant holds. With neither end: for some older one, and nobody knows from which number. */
export const firmwareSchema = v.strictObject({
  from: v.optional(inForm(versionSchema, { label: 'From firmware' })),
  upTo: v.optional(inForm(versionSchema, { label: 'Up to firmware' })),
});

export type Firmware = v.InferOutput<typeof firmwareSchema>;

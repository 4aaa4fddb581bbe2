import * as v from 'valibot';
import { inForm, oneOf, wholeWithin } from '../../forms/index.ts';
import { formatChoice } from '../../words/index.ts';
import { inBoth, rangeOfBoth } from './narrow.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const count = v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(255));

const CASES = { lower: 'lower case', upper: 'upper case' } as const;

const schema = v.strictObject({
  ...common,
  kind: v.literal('name'),
  /** Most characters, without the extension or with it and its dot. */
  most: v.optional(inForm(count, { label: 'At most, without the extension', unit: 'characters' })),
  mostWithExtension: v.optional(inForm(count, { label: 'At most, with the extension', unit: 'characters', usual: 12 })),
  /** True: letters, digits, hyphen and underscore, nothing else. */
  plain: v.optional(inForm(v.boolean(), { label: 'Letters, digits, hyphen and underscore only', usual: true })),
  /** True: letters and digits, nothing else. */
  alphanumeric: v.optional(inForm(v.boolean(), { label: 'Letters and digits only' })),
  /** True: anything but spaces. */
  noSpaces: v.optional(inForm(v.boolean(), { label: 'No spaces' })),
  letterCase: v.optional(inForm(oneOf(CASES), { label: 'Case' })),
  /** Nothing but so many digits: the number of a slot. */
  digits: v.optional(
    inForm(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(10)), {
      label: 'Exact number of digits',
      unit: 'digits',
    }),
  ),
  /** Of those digits, the least and the greatest number. */
  from: v.optional(inForm(wholeWithin({ least: 0, most: 9_999_999_999 }), { label: 'Numbers from' })),
  to: v.optional(inForm(wholeWithin({ least: 0, most: 9_999_999_999 }), { label: 'Numbers to' })),
  /** These names and no others, with their extensions: that of the first place, of the second, and so on. */
  anyOf: v.optional(
    inForm(
      v.pipe(
        v.array(
          v.pipe(v.string(), v.regex(/^[A-Za-z0-9_-]{1,60}\.[A-Za-z0-9]{1,8}$/, 'a name is written as SOUND.WAV')),
        ),
        v.minLength(1),
      ),
      {
        label: 'Exactly one of',
      },
    ),
  ),
  /** Names that the device keeps for itself, without extensions. */
  reserved: v.optional(inForm(v.array(v.pipe(v.string(), v.nonEmpty())), { label: 'Reserved names' })),
  /** True: digits alone would be taken for a number. */
  notDigitsOnly: v.optional(inForm(v.boolean(), { label: 'Not digits only' })),
});

const inCase = (text: string, letterCase: 'lower' | 'upper') =>
  letterCase === 'lower' ? text.toLowerCase() : text.toUpperCase();

/** How the file may be called. */
export const name: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'name',
  scope: 'file',
  schema,
  title: 'name',
  wanted: ({
    most,
    mostWithExtension,
    plain,
    alphanumeric,
    noSpaces,
    notDigitsOnly,
    letterCase,
    digits,
    from,
    to,
    anyOf,
    reserved,
  }) =>
    [
      ...(anyOf ? [formatChoice(anyOf)] : []),
      ...(alphanumeric ? ['letters and digits'] : []),
      ...(noSpaces ? ['no spaces'] : []),
      ...(plain ? ['letters, digits, hyphen, underscore'] : []),
      ...(most ? [`at most ${most} characters`] : []),
      ...(mostWithExtension ? [`at most ${mostWithExtension} characters with the extension`] : []),
      ...(letterCase ? [`${letterCase} case`] : []),
      ...(digits ? [`${digits} digits, the number of the slot`] : []),
      ...(from !== undefined ? [`from ${from}`] : []),
      ...(to !== undefined ? [`to ${to}`] : []),
      ...(notDigitsOnly ? ['not digits only'] : []),
      ...(reserved?.length ? [`not ${formatChoice(reserved)}`] : []),
    ].join(', '),
  narrow(a, b) {
    const agrees = <T>(x: T | undefined, y: T | undefined) => x === undefined || y === undefined || x === y;
    const { digits } = { ...b, ...a };
    const { most } = rangeOfBoth({ most: a.most }, { most: b.most }) ?? {};
    const { most: mostWithExtension } = rangeOfBoth({ most: a.mostWithExtension }, { most: b.mostWithExtension }) ?? {};
    const letterCase = a.letterCase ?? b.letterCase;
    const numbers = rangeOfBoth({ least: a.from, most: a.to }, { least: b.from, most: b.to });
    const anyOf = a.anyOf && b.anyOf ? inBoth(a.anyOf, b.anyOf, (name) => name.toLowerCase()) : (a.anyOf ?? b.anyOf);
    if (!numbers || anyOf === null) return null;
    const reserved = [...new Set([...(a.reserved ?? []), ...(b.reserved ?? [])])];
    const notDigitsOnly = a.notDigitsOnly || b.notDigitsOnly;
    if (!agrees(a.digits, b.digits) || !agrees(a.letterCase, b.letterCase)) return null;
    if (digits !== undefined && (notDigitsOnly || digits > Math.min(most ?? 255, mostWithExtension ?? 255)))
      return null;
    return {
      kind: a.kind,
      key: a.key,
      ...(a.advised === undefined ? {} : { advised: a.advised }),
      // Digits alone are plain, and so many.
      ...(digits === undefined && most !== undefined ? { most } : {}),
      ...(mostWithExtension === undefined ? {} : { mostWithExtension }),
      ...(digits === undefined && (a.plain || b.plain) ? { plain: true } : {}),
      ...(digits === undefined && (a.alphanumeric || b.alphanumeric) ? { alphanumeric: true } : {}),
      ...(digits === undefined && (a.noSpaces || b.noSpaces) ? { noSpaces: true } : {}),
      ...(numbers.least === undefined ? {} : { from: numbers.least }),
      ...(numbers.most === undefined ? {} : { to: numbers.most }),
      ...(anyOf ? { anyOf } : {}),
      ...(letterCase ? { letterCase } : {}),
      ...(digits === undefined ? {} : { digits }),
      ...(reserved.length ? { reserved } : {}),
      ...(notDigitsOnly ? { notDigitsOnly } : {}),
    };
  },
  demands: ({ most, mostWithExtension, alphanumeric, notDigitsOnly, letterCase, digits, anyOf, reserved }) => ({
    name: {
      most: most ?? null,
      mostWithExtension: mostWithExtension ?? null,
      alphanumeric: alphanumeric ?? false,
      anyOf: anyOf ?? null,
      notDigitsOnly: notDigitsOnly ?? false,
      letterCase: letterCase ?? 'lower',
      digits: digits ?? null,
      reserved: reserved ?? [],
    },
  }),
  check(wanted, { fileName }) {
    const { most = 255, mostWithExtension = 255, plain, notDigitsOnly, letterCase, digits, reserved = [] } = wanted;
    const { alphanumeric, noSpaces, from = 0, to = Number.POSITIVE_INFINITY, anyOf } = wanted;
    const stem = fileName.replace(/\.[^.]*$/, '');
    const isIn = Number(stem) >= from && Number(stem) <= to;
    const isOne = anyOf?.some((one) => one.toLowerCase() === fileName.toLowerCase()) ?? true;
    const faults = [
      ...(stem.length > most ? [`shorten it by ${stem.length - most}`] : []),
      ...(fileName.length > mostWithExtension ? [`shorten it by ${fileName.length - mostWithExtension}`] : []),
      ...(plain && !/^[A-Za-z0-9_-]+$/.test(stem) ? ['use only letters, digits, hyphen and underscore'] : []),
      ...(alphanumeric && !/^[A-Za-z0-9]+$/.test(stem) ? ['use only letters and digits'] : []),
      ...(noSpaces && /\s/.test(fileName) ? ['take the spaces out'] : []),
      ...((wanted.from !== undefined || wanted.to !== undefined) && !isIn
        ? [`give it a number from ${from}${wanted.to === undefined ? ' on' : ` to ${to}`}`]
        : []),
      ...(isOne ? [] : [`name it ${formatChoice(anyOf ?? [])}`]),
      ...(letterCase && stem !== inCase(stem, letterCase) ? [`write it in ${letterCase} case`] : []),
      ...(digits && !(stem.length === digits && /^\d+$/.test(stem))
        ? [`name it after its slot, in ${digits} digits`]
        : []),
      ...(reserved.some((name) => name.toLowerCase() === stem.toLowerCase())
        ? ['choose another: the device reserves this one']
        : []),
      ...(notDigitsOnly && /^\d+$/.test(stem) ? ['put a letter into it'] : []),
    ];
    return { meets: faults.length === 0, found: fileName, mend: faults.join('; ') };
  },
};

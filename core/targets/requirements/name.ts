import * as v from 'valibot';
import { inForm, oneOf } from '../../forms/index.ts';
import { formatChoice } from '../../words/index.ts';
import { rangeOfBoth } from './narrow.ts';
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
  letterCase: v.optional(inForm(oneOf(CASES), { label: 'Case' })),
  /** Nothing but so many digits: the number of a slot. */
  digits: v.optional(
    inForm(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(10)), {
      label: 'Exact number of digits',
      unit: 'digits',
    }),
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
  wanted: ({ most, mostWithExtension, plain, notDigitsOnly, letterCase, digits, reserved }) =>
    [
      ...(plain ? ['letters, digits, hyphen, underscore'] : []),
      ...(most ? [`at most ${most} characters`] : []),
      ...(mostWithExtension ? [`at most ${mostWithExtension} characters with the extension`] : []),
      ...(letterCase ? [`${letterCase} case`] : []),
      ...(digits ? [`${digits} digits, the number of the slot`] : []),
      ...(notDigitsOnly ? ['not digits only'] : []),
      ...(reserved?.length ? [`not ${formatChoice(reserved)}`] : []),
    ].join(', '),
  narrow(a, b) {
    const agrees = <T>(x: T | undefined, y: T | undefined) => x === undefined || y === undefined || x === y;
    const { digits } = { ...b, ...a };
    const { most } = rangeOfBoth({ most: a.most }, { most: b.most }) ?? {};
    const { most: mostWithExtension } = rangeOfBoth({ most: a.mostWithExtension }, { most: b.mostWithExtension }) ?? {};
    const letterCase = a.letterCase ?? b.letterCase;
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
      ...(letterCase ? { letterCase } : {}),
      ...(digits === undefined ? {} : { digits }),
      ...(reserved.length ? { reserved } : {}),
      ...(notDigitsOnly ? { notDigitsOnly } : {}),
    };
  },
  demands: ({ most, mostWithExtension, notDigitsOnly, letterCase, digits, reserved }) => ({
    name: {
      most: most ?? null,
      mostWithExtension: mostWithExtension ?? null,
      notDigitsOnly: notDigitsOnly ?? false,
      letterCase: letterCase ?? 'lower',
      digits: digits ?? null,
      reserved: reserved ?? [],
    },
  }),
  check(wanted, { fileName }) {
    const { most = 255, mostWithExtension = 255, plain, notDigitsOnly, letterCase, digits, reserved = [] } = wanted;
    const stem = fileName.replace(/\.[^.]*$/, '');
    const faults = [
      ...(stem.length > most ? [`shorten it by ${stem.length - most}`] : []),
      ...(fileName.length > mostWithExtension ? [`shorten it by ${fileName.length - mostWithExtension}`] : []),
      ...(plain && !/^[A-Za-z0-9_-]+$/.test(stem) ? ['use only letters, digits, hyphen and underscore'] : []),
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

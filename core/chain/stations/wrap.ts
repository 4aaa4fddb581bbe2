import * as v from 'valibot';
import {
  arrayForms,
  canCarry,
  type OutContainer,
  outContainerOf,
  type Tag,
  type TextOptions,
} from '../../containers/index.ts';
import { bitRatesAt, type CompressedEncoding, findCompressed, findEncoding } from '../../encodings/index.ts';
import { containerId, encodingId, encodingTitle, type Facts } from '../../facts/index.ts';
import { wholeWithin } from '../../forms/index.ts';
import { askedContainer, askedEncodings, fitsLayout, type SettledDemands } from '../../targets/index.ts';
import { formatBitRate, formatChannels, formatChoice, formatRate, InputError, oneLine } from '../../words/index.ts';
import { LIBRARY_OVERHEAD } from '../length-limits.ts';
import type { EncoderOrder } from '../library.ts';
import { BY_HAND, bySheet, isAmong, type SettledStation, station } from '../station.ts';
import { cut } from './cut.ts';

/** Limits of the station's text fields. */
export const WRAP_LIMITS = {
  patterns: {
    extension: /^[A-Za-z0-9]{1,8}$/,
    arrayName: /^([A-Za-z_]\w{0,59})?$/,
    elementType: /^([A-Za-z_][\w ]{0,39})?$/,
    storageAttribute: /^[\w\s()",.#[\]]{0,80}$/,
  },
  /** Characters. */
  longestTag: 500,
  lineWidth: { least: 40, most: 400 },
  address: { least: 0, most: 0x7fff_ffff },
  /** Bits per second. */
  bitRate: { least: 8000, most: 512_000 },
} as const;
const { patterns } = WRAP_LIMITS;
const tagText = v.optional(v.pipe(v.string(), v.transform(oneLine), v.maxLength(WRAP_LIMITS.longestTag)));

const wish = v.strictObject({
  container: v.optional(containerId),
  encoding: v.optional(encodingId),
  extension: v.optional(
    v.pipe(v.string(), v.regex(patterns.extension, 'an extension has 1 to 8 letters or digits, without the dot')),
  ),
  /** Bits per second, for encodings that have a choice. */
  bitRate: v.optional(wholeWithin(WRAP_LIMITS.bitRate)),
  /** MP3 of two channels. */
  stereoMode: v.optional(v.picklist(['joint', 'stereo'])),
  /** MP3: a first frame that states the exact length. */
  infoFrame: v.optional(v.boolean()),
  tags: v.optional(
    v.union([
      v.picklist(['none', 'keep']),
      v.strictObject({ title: tagText, artist: tagText, album: tagText, comment: tagText }),
    ]),
  ),
  /** The form of source code in whose array the whole file stands; `none`: in no array. */
  array: v.optional(v.picklist(['none', ...arrayForms.map(({ id }) => id)])),
  /** Text forms only, from here on: stands between the array and its values. */
  storageAttribute: v.optional(
    v.pipe(
      v.string(),
      v.regex(patterns.storageAttribute, 'an attribute has letters, digits, underscores, brackets and quotes'),
    ),
  ),
  arrayName: v.optional(v.pipe(v.string(), v.regex(patterns.arrayName, 'a name has letters, digits and underscores'))),
  elementType: v.optional(
    v.pipe(v.string(), v.regex(patterns.elementType, 'a type has letters, digits and underscores')),
  ),
  lineWidth: v.optional(wholeWithin(WRAP_LIMITS.lineWidth)),
  numbers: v.optional(v.picklist(['decimal', 'hex'])),
  constants: v.optional(v.boolean()),
  guard: v.optional(v.boolean()),
  address: v.optional(wholeWithin(WRAP_LIMITS.address)),
});
type Wish = v.InferOutput<typeof wish>;

export interface WrapPlan {
  readonly container: string;
  readonly encoding: string;
  /** Id of the form in whose array the whole file stands; null if it stands for itself. */
  readonly array: string | null;
  /** Without the dot. */
  readonly extension: string;
  /** What the library is told; null if core encodes itself. */
  readonly compressed: Pick<EncoderOrder, 'bitRate' | 'stereoMode' | 'infoFrame'> | null;
  readonly tags: readonly Tag[];
  readonly text: Partial<TextOptions>;
}

const TEXT_KEYS = [
  'storageAttribute',
  'arrayName',
  'elementType',
  'lineWidth',
  'numbers',
  'constants',
  'guard',
  'address',
] as const;

function textOf(wished: Wish): Partial<TextOptions> {
  const given = TEXT_KEYS.flatMap((key) => (wished[key] === undefined ? [] : [[key, wished[key]]]));
  const attribute = wished.storageAttribute?.trim();
  return { ...Object.fromEntries(given), ...(attribute === undefined ? {} : { storageAttribute: attribute }) };
}

/**
 * The bit rate that is set by hand, even if there is no such one: that is an obstacle. Otherwise the one that a sheet asks
 * for, or the usual one if it asks for none; the nearest that there is. If the sheet leaves it open within limits and limits
 * the size too, the highest one up to it that fits.
 */
function bitRateOf(
  { bitRates, usualBitRate, isConstant }: CompressedEncoding,
  { bitRate, fileBytes }: SettledDemands,
  wished: Wish,
  seconds: number,
): number {
  if (!bitRates) return 0;
  if (wished.bitRate) return wished.bitRate;
  const { anyOf = null, least = 0, most = Number.POSITIVE_INFINITY } = bitRate?.value ?? {};
  // Where the rate is the same in every frame, another one is not what the sheet asks for.
  if (anyOf && isConstant) return anyOf.find((rate) => bitRates.includes(rate)) ?? anyOf[0] ?? 0;
  const goal = anyOf?.[0] ?? Math.min(most, Math.max(least, usualBitRate));
  const nearest = bitRates.reduce((best, rate) => (Math.abs(rate - goal) < Math.abs(best - goal) ? rate : best));
  if (anyOf || !fileBytes) return nearest;
  const fits = (rate: number) => (rate / 8) * seconds + LIBRARY_OVERHEAD <= fileBytes.value;
  const open = bitRates.filter((rate) => rate <= nearest && rate >= least);
  return open.findLast(fits) ?? open[0] ?? nearest;
}

/** Bit rates that there are for a result like this; null if none is chosen. */
export function possibleBitRates(
  { encoding, compressed }: WrapPlan,
  sampleRate: number,
  channels: number,
): readonly number[] | null {
  const library = findCompressed(encoding);
  return library && compressed
    ? bitRatesAt(library, { sampleRate, channels, stereoMode: compressed.stereoMode })
    : null;
}

/** What is wrong with the bit rate of a result like this, as a sentence; null if it can be made. */
export function bitRateTrouble(plan: WrapPlan, sampleRate: number, channels: number): string | null {
  const possible = possibleBitRates(plan, sampleRate, channels);
  const { bitRate = 0, stereoMode } = plan.compressed ?? {};
  if (!possible || possible.includes(bitRate)) return null;
  const plain = channels === 2 && stereoMode === 'stereo' ? 'plain ' : '';
  const [least = 0, most = 0] = [possible[0], possible[possible.length - 1]];
  const nearest = possible.reduce((best, rate) => (Math.abs(rate - bitRate) < Math.abs(best - bitRate) ? rate : best));
  return `${encodingTitle(plan.encoding)} at ${formatRate(sampleRate)}, ${plain}${formatChannels(channels)}, cannot have ${formatBitRate(bitRate)}: it ranges from ${formatBitRate(least)} to ${formatBitRate(most)}${bitRate > least && bitRate < most ? `, and ${formatBitRate(nearest)} is the nearest` : ''}.`;
}

/** Source tags in their usual order, then what the user wrote. */
function tagsOf({ tags: demand }: SettledDemands, wished: Wish, facts: Facts): readonly Tag[] {
  const choice = wished.tags ?? (demand?.value === 'kept' ? 'keep' : 'none');
  if (choice === 'none') return [];
  if (choice === 'keep') return facts.tags.filter(({ name, value }) => name && value);
  return Object.entries(choice).flatMap(([name, value]) => (value?.trim() ? [{ name, value: value.trim() }] : []));
}

function encodingFor(container: OutContainer, demands: SettledDemands, wished: Wish): string {
  const layout = demands.byteLayout?.value;
  const wanted = wished.encoding ? [wished.encoding] : askedEncodings(demands, container);
  const possible = wanted.filter((id) => canCarry(container, id));
  const depths = demands.bitDepths?.value;
  // An encoding without samples of a fixed depth keeps whichever it is given.
  const hasDepth = (id: string) => depths?.includes(findEncoding(id)?.bitDepth ?? depths[0] ?? 0) ?? true;
  const hasLayout = (id: string) => !layout || fitsLayout(id, layout);
  const encoding = possible.find((id) => hasLayout(id) && hasDepth(id)) ?? possible.find(hasLayout) ?? possible[0];
  if (!encoding) {
    throw new InputError(
      'bad-setting',
      `Wrap: ${container.title} cannot carry ${formatChoice(wanted.map(encodingTitle))}; choose another container or encoding.`,
    );
  }
  return encoding;
}

/** The file around the samples: encoding, container, extension, tags. */
export const wrap = station({
  id: 'wrap',
  title: 'Wrap',
  wish,
  needs: { cut },
  settle({ facts, demands }, wished: Wish = {}, { cut }): SettledStation<WrapPlan> {
    const seconds = (cut.end - cut.start) / facts.sampleRate;
    const byHand = Object.keys(wished).length > 0;
    const container = outContainerOf(wished.container ?? askedContainer(demands));
    const encoding = encodingFor(container, demands, wished);
    const library = findCompressed(encoding);
    const asked = demands.arrays?.value[0] ?? 'none';
    // What is source code itself stands in no other.
    const form = container.textOptions ? 'none' : (wished.array ?? asked);
    const array = form === 'none' ? null : form;
    const outermost = array === null ? container : outContainerOf(array);
    // The sheet's extension belongs to its container.
    const isSheets = container.id === askedContainer(demands) && form === asked;
    const extension = wished.extension ?? (isSheets && demands.extensions?.value[0]) ?? outermost.extensions[0];
    const tags = tagsOf(demands, wished, facts);
    const compressed = library
      ? {
          bitRate: bitRateOf(library, demands, wished, seconds),
          stereoMode: wished.stereoMode ?? demands.stereoMode?.value ?? 'joint',
          infoFrame: wished.infoFrame ?? demands.tags?.value !== 'forbidden',
        }
      : null;
    const what = [
      encodingTitle(encoding),
      ...(encodingTitle(encoding) === container.title ? [] : [container.title]),
      ...(compressed?.bitRate ? [formatBitRate(compressed.bitRate)] : []),
      ...(array === null ? [] : [`all of the file in ${outermost.title}`]),
      `.${extension || outermost.extensions[0]}`,
    ].join(', ');
    return {
      plan: {
        container: container.id,
        encoding,
        array,
        extension: extension || outermost.extensions[0],
        compressed,
        tags,
        text: textOf(wished),
      },
      byHand,
      figure: `.${extension || outermost.extensions[0]}`,
      why: [
        byHand ? `${BY_HAND} ${what}.` : bySheet(what),
        ...(tags.length ? [`Tags: ${tags.map(({ name }) => name).join(', ')}.`] : []),
      ].join(' '),
    };
  },
  alternatives(plan, { demands: { encodings, bitRate } }, _, { sampleRate, channels }) {
    const { anyOf = null, least = 0, most = Number.POSITIVE_INFINITY } = bitRate?.value ?? {};
    const rates = possibleBitRates(plan, sampleRate, channels) ?? [];
    return [
      ...(encodings?.value ?? []).map((encoding) => ({ label: encodingTitle(encoding), wish: { encoding } })),
      ...rates
        .filter((value) => value >= least && value <= most && (anyOf?.includes(value) ?? true))
        .toReversed()
        .map((value) => ({ label: formatBitRate(value), wish: { bitRate: value } })),
    ];
  },
  isAskedFor: ({ container, encoding, extension, array, tags }, demands) =>
    isAmong(demands.containers, container) &&
    isAmong(demands.encodings, encoding) &&
    isAmong(demands.extensions, extension) &&
    (demands.arrays ? array !== null && isAmong(demands.arrays, array) : array === null) &&
    !(demands.tags?.value === 'forbidden' && tags.length > 0),
});

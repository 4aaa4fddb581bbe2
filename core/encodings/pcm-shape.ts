import { oddPcmId } from './pcm-odd.ts';
import { packedPcmId } from './pcm-packed.ts';

/** How whole-number samples may be laid out in bytes. */
export interface PcmShape {
  /** 1 to 32. */
  readonly bits: number;
  readonly signed: boolean;
  readonly bigEndian: boolean;
  /** True: at the high end of their bytes. */
  readonly left: boolean;
  /** Packed across bytes, with the high or the low bit first; null: each sample in bytes of its own. */
  readonly packed: 'high' | 'low' | null;
}

export const MOST_PCM_BITS = 32;

/** The id of PCM of a shape: "pcm-s12le-left", "pcm-u5-packed". */
export const pcmId = ({ packed, ...shape }: PcmShape): string =>
  packed && shape.bits % 8 !== 0
    ? packedPcmId({ ...shape, first: packed })
    : oddPcmId({ ...shape, left: shape.left && shape.bits % 8 !== 0 });

/** The shape that an id names; undefined if it is not an id of PCM. */
export function pcmShapeOf(id: string): PcmShape | undefined {
  const match = /^pcm-([su])(\d{1,2})(le|be)?(-left|-packed|-packed-low)?$/.exec(id);
  if (!match) return undefined;
  const [, sign, digits, order, end] = match;
  const bits = Number(digits);
  if (bits < 1 || bits > MOST_PCM_BITS) return undefined;
  const packed = end === '-packed' ? 'high' : end === '-packed-low' ? 'low' : null;
  const shape = { bits, signed: sign === 's', bigEndian: order === 'be', left: end === '-left', packed } as const;
  // Only one spelling is an id.
  return pcmId(shape) === id ? shape : undefined;
}

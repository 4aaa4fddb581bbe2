import * as v from 'valibot';
import { formatSeconds, InputError } from '../../words/index.ts';
import { BY_HAND, type SettledStation, station } from '../station.ts';

const frame = v.pipe(
  v.number(),
  v.integer(),
  v.minValue(0),
  v.description('a frame of the source; --start and --end take times'),
);

/** In frames of the source; `end` is the first frame that is left out, null the source's end. */
const wish = v.strictObject({ start: v.optional(frame), end: v.optional(v.nullable(frame)) });

type Wish = v.InferOutput<typeof wish>;

export interface CutPlan {
  readonly start: number;
  readonly end: number;
}

/** Which part of the source is used. */
export const cut = station({
  id: 'cut',
  title: 'Cut',
  wish,
  needs: {},
  settle({ facts }, wished: Wish | undefined): SettledStation<CutPlan> {
    const start = wished?.start ?? 0;
    const end = wished?.end ?? facts.frames;
    const at = (frames: number) => formatSeconds(frames / facts.sampleRate);
    if (end > facts.frames || start >= facts.frames) {
      const [edge, where] = start >= facts.frames ? ['starts', start] : ['ends', end];
      throw new InputError(
        'cut-outside',
        `The cut ${edge} at ${at(where)}, outside the source, which is ${at(facts.frames)} long; choose a time inside it.`,
      );
    }
    if (end <= start) {
      throw new InputError(
        'cut-order',
        `The cut ends at ${at(end)}, not after its start at ${at(start)}; set the end after the start.`,
      );
    }
    const whole = start === 0 && end === facts.frames;
    return {
      plan: { start, end },
      byHand: wished !== undefined,
      figure: at(end - start),
      why: wished ? `${BY_HAND} From ${at(start)} to ${at(end)}.` : whole ? 'The whole source.' : '',
    };
  },
  cameFrom: (frame, { start }) => frame + start,
  inPiece: (_, { start, end }) => ({ plan: { start, end }, provisional: [] }),
});

import * as v from 'valibot';
import { compiled } from '../../facts/index.ts';
import { inForm, wholeWithin } from '../../forms/index.ts';
import { formatCount } from '../../words/index.ts';
import type { Refusal, Trait } from '../trait.ts';

const schema = v.strictObject({
  bytes: inForm(wholeWithin({ least: 1, most: 1e12 }), { label: 'It holds', unit: 'bytes', usual: 65_536 }),
});

/** The memory of the device: sounds are loaded in their order while they fit; one that does not is missing. */
export const holds: Trait<'holds', v.InferOutput<typeof schema>> = {
  id: 'holds',
  title: 'Memory for all sounds',
  schema,
  words: ({ bytes }) => `holds ${formatCount(bytes)} bytes of sound, and leaves out what does not fit`,
  implies: ({ bytes }) => [{ kind: 'set-size', most: bytes }],
  otherwise: [{ kind: 'set-size', words: 'leaves out what does not fit', value: ({ most }) => ({ bytes: most }) }],
  find({ bytes }, { shown, refused }) {
    let left = bytes;
    const missing: (Refusal & { path: string })[] = [];
    const loaded = shown.filter(({ file: { path, bytes: content } }) => {
      const { size } = compiled(content);
      if (size <= left) {
        left -= size;
        return true;
      }
      const reason = `It takes ${formatCount(size)} bytes, and of ${formatCount(bytes)} only ${formatCount(left)} are left.`;
      missing.push({ path, word: 'memory full', reason });
      return false;
    });
    return { shown: loaded, refused: [...refused, ...missing] };
  },
};

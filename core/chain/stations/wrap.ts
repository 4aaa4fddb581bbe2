import * as v from 'valibot';
import { formatChoice, InputError } from '../../audio/index.ts';
import { containerOf, containers } from '../../containers/index.ts';
import { encodings } from '../../encodings/index.ts';
import { encodingTitle } from '../../facts/index.ts';
import { BY_HAND, bySheet, type Station } from '../station.ts';

const wish = v.strictObject({
  container: v.optional(v.picklist(containers.map(({ id }) => id))),
  encoding: v.optional(v.picklist(encodings.map(({ id }) => id))),
  extension: v.optional(
    v.pipe(v.string(), v.regex(/^[A-Za-z0-9]{1,8}$/, 'an extension has 1 to 8 letters or digits, without the dot')),
  ),
  /** Text forms only: stands between the array and its values. */
  storageAttribute: v.optional(
    v.pipe(
      v.string(),
      v.regex(/^[\w\s()",.]{0,80}$/, 'an attribute has letters, digits, underscores, brackets and quotes'),
    ),
  ),
});

export interface WrapPlan {
  readonly container: string;
  readonly encoding: string;
  /** Without the dot. */
  readonly extension: string;
  readonly storageAttribute: string;
}

/** What is used where neither the sheet nor the user says. */
const USUAL_CONTAINER = 'wav';
const USUAL_ENCODING = 'pcm-s16le';

/** The file around the samples: encoding, container, extension. */
export const wrap: Station<v.InferOutput<typeof wish>, WrapPlan> = {
  title: 'Wrap',
  wish,
  needs: [],
  settle({ demands }, wished) {
    const container = containerOf(wished?.container ?? demands.containers?.value[0] ?? USUAL_CONTAINER);
    const wanted = wished?.encoding ? [wished.encoding] : (demands.encodings?.value ?? [USUAL_ENCODING]);
    const encoding = wanted.find((id) => container.carries.includes(id));
    if (!encoding) {
      throw new InputError(
        'bad-setting',
        `Wrap: ${container.title} cannot carry ${formatChoice(wanted.map(encodingTitle))}; choose another container or encoding.`,
      );
    }
    const extension = wished?.extension ?? demands.extensions?.value[0] ?? container.extensions[0];
    const what = `${encodingTitle(encoding)}, ${container.title}, .${extension}`;
    return {
      plan: { container: container.id, encoding, extension, storageAttribute: wished?.storageAttribute?.trim() ?? '' },
      byHand: wished !== undefined,
      figure: `.${extension}`,
      why: wished ? `${BY_HAND} ${what}.` : bySheet(what),
    };
  },
};

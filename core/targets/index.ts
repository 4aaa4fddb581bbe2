import { nearestName } from '../forms/index.ts';
import { InputError, shortened } from '../words/index.ts';
import { targets } from './sheets/list.ts';
import type { Target } from './target.ts';

export { type Asking, askedBy, disagreements, followingFrom } from './asked.ts';
export { targetSchema } from './checked.ts';
export * from './demands.ts';
export { fieldOf, filledIn, sheetFor, withUsual, withVariant } from './editions.ts';
export {
  type AskedRow,
  type AskingParts,
  askedRows,
  choiceMade,
  type OtherwiseChoice,
  otherwiseChoices,
  withOtherwise,
  withoutOtherwise,
} from './otherwise.ts';
export {
  type Blank,
  type Face,
  MOST_VALUES,
  type Places,
  pathTo,
  placesSchema,
  type SheetEvidence,
  type Value,
  type Values,
  valuesSchema,
} from './parts.ts';
export { deviceOf, isObservable } from './player.ts';
export * from './requirements/index.ts';
export { EMPTY_SHEET, FORMAT, sheetSchema, type Target, type Variant } from './target.ts';
export { askedContainer, askedEncodings } from './writable.ts';

export { targets };

/** @throws InputError with code `unknown-target` */
export function targetOf(id: string): Target {
  const target = targets.find((entry) => entry.id === id);
  if (!target) {
    const known = targets.map((entry) => entry.id);
    const near = nearestName(id, known);
    throw new InputError(
      'unknown-target',
      `There is no target "${shortened(id, 80)}"${near ? `, perhaps ${near}` : ''}; choose one of: ${known.join(', ')}.`,
    );
  }
  return target;
}

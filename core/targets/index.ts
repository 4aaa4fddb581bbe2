export { type Asking, askedBy, disagreements, followingFrom } from './asked.ts';
export { targetSchema } from './checked.ts';
export * from './demands.ts';
export { fieldOf, filledIn, hasLimitsOfPlaces, sheetFor, sheetForClip, withUsual, withVariant } from './editions.ts';
export { firmwareQuestion, variantForFirmware } from './firmware.ts';
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
export { targets } from './sheets/list.ts';
export { editionsOf, targetOf } from './shipped.ts';
export { EMPTY_SHEET, FORMAT, sheetSchema, type Target, type Variant } from './target.ts';
export { askedContainer, askedEncodings } from './writable.ts';

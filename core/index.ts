/** The public surface of the core: everything else in here is its own affair. */
export * from './audio/index.ts';
export * from './chain/index.ts';
export type { Container, Extra, Reading, Tag, WholeIn } from './containers/index.ts';
export {
  arrayForms,
  canCarry,
  containerOf,
  containers,
  findContainer,
  findOutContainer,
  foreignContainers,
  headerless,
  libraryContainers,
  type OutContainer,
  outContainerOf,
  outContainers,
  packFile,
  safeIdentifier,
  type TextOptions,
  USUAL_CONTAINER,
  USUAL_TEXT,
  wavFile,
  wholeIn,
} from './containers/index.ts';
export * from './delivery/index.ts';
export * from './documents/index.ts';
export {
  DITHERS,
  type Dither,
  energyAbove,
  envelopeOf,
  FADE_SHAPES,
  type FadeShape,
  type FoundTempo,
  findParts,
  joinPart,
  nearestZeroCrossing,
  type Part,
  type PartRules,
  proposedThreshold,
  resample,
  SPECTRUM_SIZE,
  type Spectrogram,
  SpectrumMeter,
  spectrogramOf,
  splitPart,
  TEMPO_SECONDS,
  tempoOf,
} from './dsp/index.ts';
export * from './encodings/alac.ts';
export * from './encodings/flac/index.ts';
export {
  bitRatesAt,
  blockEncodings,
  compressedEncodings,
  type Encoding,
  encodingOf,
  encodings,
  findCompressed,
  findEncoding,
  foreignEncodings,
  frameCodec,
  type PcmShape,
  type PlainEncoding,
  pcmId,
  pcmShapeOf,
  UNROUNDED_ENCODING,
  USUAL_ENCODING,
} from './encodings/index.ts';
export * from './facts/index.ts';
export * from './fields/index.ts';
export * from './findings/index.ts';
export * from './listening/index.ts';
export {
  ESCAPES,
  LARGEST_OWN_LIST,
  LINE_ENDS,
  type ListFile,
  type MergedList,
  type Pack,
  ROW_FIELDS,
  readBytesAsText,
  readListFile,
  TEXT_ENCODINGS,
  USUAL_LIST,
} from './lists/index.ts';
export * from './notes/index.ts';
export * from './standin/index.ts';
export {
  type Cause,
  causes,
  type Explained,
  explain,
  explainFrom,
  findSymptom,
  gather,
  LONGEST_SOURCE,
  type Mend,
  playsRight,
  type Ranked,
  type Situation,
  type Suspicion,
} from './symptoms/index.ts';
export * from './targets/index.ts';
export * from './version.ts';

import { aiff, aiffC } from './aiff.ts';
import { au } from './au.ts';
import { caf } from './caf.ts';
import type { Container } from './container.ts';
import { headerless } from './headerless.ts';
import { rf64 } from './rf64.ts';
import { assembler } from './text/assembler.ts';
import { cHeader, cSource } from './text/c.ts';
import { intelHex } from './text/intel-hex.ts';
import { json } from './text/json.ts';
import { python } from './text/python.ts';
import { rust } from './text/rust.ts';
import { wav } from './wav.ts';

/**
 * Every container that Tambur reads and writes itself. A new one: its file, and its line here. The first that recognises
 * a file reads it; headerless recognises none.
 */
export const containers: readonly Container[] = [
  wav,
  rf64,
  aiff,
  aiffC,
  au,
  caf,
  cHeader,
  cSource,
  assembler,
  python,
  rust,
  json,
  intelHex,
  headerless,
];

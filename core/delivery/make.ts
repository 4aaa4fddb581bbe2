import { type ByteFile, crc32, type PcmReader, piecesOf } from '../audio/index.ts';
import {
  type Chain,
  type ClipSettings,
  type FileStore,
  fit,
  memoryStore,
  type Rendered,
  type RenderOptions,
  render,
} from '../chain/index.ts';
import { type Facts, plainStream, readPlain, surveyStream } from '../facts/index.ts';
import { checkFile, checkReport, type Finding } from '../findings/index.ts';
import type { Target } from '../targets/index.ts';

/** What the file of a settled chain is called. */
export const fileNameOf = ({ stations }: Chain, stem: string): string => `${stem}.${stations.wrap.plan.extension}`;

/** One finished file with its proof. */
export interface MadeClip {
  readonly chain: Chain;
  readonly fileName: string;
  /** The finished bytes. */
  readonly file: ByteFile;
  readonly report: Rendered['report'];
  /** Of the finished bytes, read again. */
  readonly facts: Facts;
  readonly findings: readonly Finding[];
}

export interface MakeOptions extends RenderOptions {
  /** Where the file goes; memory, if nothing is said. */
  readonly store?: FileStore;
  /** Shown the sound of the finished file, block by block, as it is read again. */
  readonly hear?: (block: readonly Float32Array[]) => void;
}

/**
 * The whole way for one clip: fit, render, read the finished bytes again, hold them against the sheet. The page, the
 * server and the command line all call this, which is why they give the same bytes.
 * @throws InputError where a setting cannot be carried out
 */
export async function makeClip(
  source: { readonly facts: Facts; readonly reader: PcmReader },
  settings: ClipSettings,
  target: Target,
  { store = memoryStore(), hear = () => undefined, ...options }: MakeOptions,
): Promise<MadeClip> {
  const chain = fit(source.facts, settings, target);
  const rendered = await render(chain, source.reader, store, options);
  const file = store.written();
  const facts = await readBack(file, rendered, hear);
  const fileName = fileNameOf(chain, options.stem);
  const { report } = rendered;
  const findings = [...checkFile(target, facts, fileName), ...checkReport(report)];
  return { chain, fileName, file, report, facts, findings };
}

/** Reads finished bytes as any reader would, and proves that the samples in them are those that were written. */
async function readBack(
  bytes: ByteFile,
  { reading, report, dataSum }: Rendered,
  hear: (block: readonly Float32Array[]) => void,
): Promise<Facts> {
  const file = readPlain(bytes, reading);
  let sum = 0;
  for (const piece of piecesOf(file.data)) sum = crc32(piece, sum);
  const same =
    file.encoding.id === reading.encoding &&
    file.sampleRate === reading.sampleRate &&
    file.channels === reading.channels &&
    file.frames === report.frames &&
    sum === dataSum;
  if (!same) throw new Error(`the finished ${file.container} file does not read back as it was written`);
  return { ...(await surveyStream(plainStream(file, bytes.size), hear)), certainty: 'written' };
}

import type { PcmReader } from '../audio/index.ts';
import { type Chain, type ClipSettings, fit, type Rendered, type RenderOptions, render } from '../chain/index.ts';
import { type Facts, type OpenedSound, openSoundFile, readPlain } from '../facts/index.ts';
import { checkFile, type Finding } from '../findings/index.ts';
import type { Target } from '../targets/index.ts';

/** One finished file with its proof. */
export interface MadeClip {
  readonly chain: Chain;
  readonly fileName: string;
  readonly bytes: Uint8Array;
  readonly report: Rendered['report'];
  /** The finished bytes read again. */
  readonly opened: OpenedSound;
  readonly findings: readonly Finding[];
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
  options: RenderOptions,
): Promise<MadeClip> {
  const chain = fit(source.facts, settings, target);
  const rendered = await render(chain, source.reader, options);
  const opened = readBack(rendered);
  const fileName = `${options.stem}.${chain.stations.wrap.plan.extension}`;
  return {
    chain,
    fileName,
    bytes: rendered.bytes,
    report: rendered.report,
    opened,
    findings: checkFile(target, opened.facts, fileName),
  };
}

/** Reads finished bytes as any reader would, and proves that the samples in them are those that were written. */
function readBack({ bytes, reading, frames, data }: Rendered): OpenedSound {
  const file = readPlain(bytes, reading);
  const same =
    file.encoding.id === reading.encoding &&
    file.sampleRate === reading.sampleRate &&
    file.channels === reading.channels &&
    file.frames === frames &&
    sameBytes(file.data, data);
  if (!same) throw new Error(`the finished ${file.container} file does not read back as it was written`);
  const opened = openSoundFile(file, bytes.length);
  return { ...opened, facts: { ...opened.facts, certainty: 'written' } };
}

function sameBytes(a: Uint8Array, b: Uint8Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

import {
  arrayForms,
  type Chain,
  type ClipSettings,
  canCarry,
  encodingTitle,
  type Facts,
  findCompressed,
  formatBitRate,
  outContainerOf,
  outContainers,
  type Plan,
  possibleBitRates,
  type TextOptions,
  USUAL_TEXT,
  WRAP_LIMITS,
} from '@tambur/core';
import { useEffect, useMemo, useState } from 'react';
import { Choice } from '../../ui/choice.tsx';
import { DraftField } from '../../ui/field.tsx';
import { Fold } from '../../ui/fold.tsx';
import { NumberField } from '../../ui/number-field.tsx';
import { OtherPcm } from '../../ui/other-pcm.tsx';
import { Select } from '../../ui/select.tsx';
import { sha256Of } from '../../ui/sha256.ts';
import { Toggle } from '../../ui/toggle.tsx';
import { type Preview, saysAll } from '../use-preview.ts';
import type { PanelProps } from './panel.ts';

/** Bytes of the finished file that are shown. */
const SHOWN = 160;
const PER_LINE = 16;

const isText = (bytes: Uint8Array) => bytes.every((byte) => byte === 10 || (byte >= 32 && byte < 127));

/** The head of a file: as text where it is text, otherwise in hex. */
function headOf(file: Uint8Array): string {
  const head = file.subarray(0, SHOWN * 4);
  if (isText(head)) return String.fromCharCode(...head);
  const lines: string[] = [];
  for (let at = 0; at < Math.min(SHOWN, file.length); at += PER_LINE) {
    const bytes = [...file.subarray(at, at + PER_LINE)];
    const hex = bytes.map((byte) => byte.toString(16).padStart(2, '0')).join(' ');
    const text = bytes.map((byte) => (byte >= 32 && byte < 127 ? String.fromCharCode(byte) : '·')).join('');
    lines.push(`${at.toString(16).padStart(4, '0')}  ${hex.padEnd(PER_LINE * 3)} ${text}`);
  }
  return lines.join('\n');
}

/** SHA-256 of the finished file in hex, to compare with what was delivered. */
function useFingerprint(preview: Preview | null): string {
  const bytes = preview?.piece ? undefined : preview?.bytes;
  const [known, setKnown] = useState<{ bytes: Uint8Array; hex: string } | null>(null);
  useEffect(() => {
    if (!bytes) return;
    let isStale = false;
    void sha256Of(bytes as Uint8Array<ArrayBuffer>).then((hex) => {
      if (!isStale) setKnown({ bytes, hex });
    });
    return () => {
      isStale = true;
    };
  }, [bytes]);
  return preview?.stored?.sha256 ?? (known && known.bytes === bytes ? known.hex : '');
}

const { patterns: PATTERNS } = WRAP_LIMITS;

type Wish = Exclude<ClipSettings['wrap'], 'automatic'>;

/** The whole file stands in no array of source code. */
const NO_ARRAY = 'none';

/** Container, encoding, extension, tags, and the first bytes of the finished file. */
export function WrapPanel({ chain, settings, source, preview, onChange }: PanelProps) {
  const { container, encoding, extension, array } = chain.stations.wrap.plan;
  const wish: Wish = settings.wrap === 'automatic' ? {} : settings.wrap;
  const set = (change: Wish) => onChange({ wrap: { ...wish, ...change } });
  const fingerprint = useFingerprint(preview);
  const head = useMemo(
    () => (preview ? headOf(preview.stored ? Uint8Array.from(preview.stored.head) : preview.bytes) : ''),
    [preview],
  );
  const out = outContainerOf(container);
  const choose = (id: string) => {
    const next = outContainerOf(id);
    const fitting = canCarry(next, encoding) ? encoding : (next.carries[0] ?? encoding);
    const outermost = array !== null && !next.textOptions ? outContainerOf(array) : next;
    set({ container: id, encoding: fitting, extension: outermost.extensions[0] ?? extension });
  };
  const within = (id: string) => {
    const outermost = id === NO_ARRAY ? out : outContainerOf(id);
    set({ array: id, extension: outermost.extensions[0] ?? extension });
  };
  const textOptions = array === null ? out.textOptions : outContainerOf(array).textOptions;
  const options = [...new Set([...out.carries, encoding])].map((id) => ({ value: id, label: encodingTitle(id) }));
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
        <Select
          label="Container"
          value={container}
          onChange={choose}
          options={outContainers().map(({ id, title }) => ({ value: id, label: title }))}
        />
        <Select label="Encoding" value={encoding} onChange={(value) => set({ encoding: value })} options={options} />
        <DraftField
          label="Extension"
          value={extension}
          isValid={(text) => PATTERNS.extension.test(text)}
          onChange={(value) => set({ extension: value })}
        />
        {!out.textOptions && (
          <Select
            label="All of the file as an array in"
            value={array ?? NO_ARRAY}
            onChange={within}
            options={[
              { value: NO_ARRAY, label: 'nothing: a file of its own' },
              ...arrayForms.map(({ id, title }) => ({ value: id, label: title })),
            ]}
          />
        )}
        <CompressedFields chain={chain} wish={wish} set={set} />
        {out.carriesEvery && <OtherPcm encoding={encoding} onChange={(id) => set({ encoding: id })} />}
      </div>
      {textOptions && <TextFields options={textOptions} plan={chain.stations.wrap.plan} set={set} />}
      {out.holdsTags && <TagFields wish={wish} set={set} plan={chain.stations.wrap.plan} facts={source.facts} />}
      {preview && saysAll(preview) && (
        <Fold title={`How ${preview.chain.fileName} begins, and its SHA-256`} isOpen={textOptions === undefined}>
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolling region must be reachable by keyboard */}
          <pre tabIndex={0} className="figure mt-1 max-h-32 overflow-auto border border-hairline bg-paper p-2 text-xs">
            {head}
          </pre>
          <p className="figure mt-1 text-xs break-all text-graphite">
            SHA-256 <span data-testid="fingerprint">{fingerprint}</span>
          </p>
        </Fold>
      )}
    </div>
  );
}

interface PartProps {
  readonly plan: Plan<'wrap'>;
  readonly set: (change: Wish) => void;
}

/** What a library is told. */
function CompressedFields({ chain, wish, set }: { chain: Chain; wish: Wish } & Pick<PartProps, 'set'>) {
  const { rate, channels, wrap } = chain.stations;
  const { plan } = wrap;
  if (!plan.compressed) return null;
  const possible = possibleBitRates(plan, rate.plan.to, channels.plan.matrix.length);
  const { bitRate, stereoMode, infoFrame } = plan.compressed;
  const library = findCompressed(plan.encoding);
  return (
    <>
      {possible && (
        <Select
          label={library?.isConstant ? 'Bit rate, constant' : 'Bit rate, about'}
          value={String(bitRate)}
          onChange={(value) => set({ bitRate: Number(value) })}
          options={[...new Set([...possible, bitRate])].map((each) => ({
            value: String(each),
            label: formatBitRate(each),
          }))}
        />
      )}
      {library?.hasStereoModes && (
        <Select
          label="Two channels as"
          value={wish.stereoMode ?? stereoMode}
          onChange={(value) => set({ stereoMode: value === 'stereo' ? 'stereo' : 'joint' })}
          options={[
            { value: 'joint', label: 'joint stereo' },
            { value: 'stereo', label: 'stereo' },
          ]}
        />
      )}
      {library?.unstated && (
        <Toggle
          label="First frame states the exact length"
          value={infoFrame}
          onChange={(value) => set({ infoFrame: value })}
        />
      )}
    </>
  );
}

/** How a text form is written: what of it there is to choose. */
function TextFields({ options, plan, set }: PartProps & { options: readonly (keyof TextOptions)[] }) {
  const text = { ...USUAL_TEXT, ...plan.text };
  const has = (option: keyof TextOptions) => options.includes(option);
  return (
    <div className="flex flex-wrap items-end gap-x-8 gap-y-3">
      {has('address') && (
        <NumberField
          label="Address of the first byte"
          unit=""
          value={text.address}
          range={WRAP_LIMITS.address}
          onChange={(address) => set({ address })}
        />
      )}
      {has('arrayName') && (
        <DraftField
          label="Array name (empty: the file's)"
          value={text.arrayName}
          isValid={(text) => PATTERNS.arrayName.test(text)}
          onChange={(arrayName) => set({ arrayName })}
        />
      )}
      {has('elementType') && (
        <DraftField
          label="Type (empty: usual)"
          value={text.elementType}
          isValid={(text) => PATTERNS.elementType.test(text)}
          onChange={(elementType) => set({ elementType })}
        />
      )}
      {has('storageAttribute') && (
        <DraftField
          label="Storage attribute"
          value={text.storageAttribute}
          isValid={(text) => PATTERNS.storageAttribute.test(text)}
          onChange={(storageAttribute) => set({ storageAttribute })}
        />
      )}
      {has('lineWidth') && (
        <NumberField
          label="Line width"
          unit="characters"
          value={text.lineWidth}
          range={WRAP_LIMITS.lineWidth}
          onChange={(lineWidth) => set({ lineWidth })}
        />
      )}
      {has('numbers') && (
        <Toggle
          label="Numbers in hex"
          value={text.numbers === 'hex'}
          onChange={(value) => set({ numbers: value ? 'hex' : 'decimal' })}
        />
      )}
      {has('constants') && (
        <Toggle
          label="Constants for rate and channels"
          value={text.constants}
          onChange={(value) => set({ constants: value })}
        />
      )}
      {has('guard') && <Toggle label="Include guard" value={text.guard} onChange={(guard) => set({ guard })} />}
    </div>
  );
}

const TAGS = ['title', 'artist', 'album', 'comment'] as const;

/** No tags, those of the source, or the user's own. */
function TagFields({ plan, wish, set, facts }: PartProps & { wish: Wish; facts: Facts }) {
  const own = typeof wish.tags === 'object' ? wish.tags : null;
  const plain = typeof wish.tags === 'string' ? wish.tags : plan.tags.length ? 'keep' : 'none';
  const mode: 'own' | 'keep' | 'none' = own ? 'own' : plain;
  const ofSource = (name: string) => facts.tags.find((tag) => tag.name === name)?.value ?? '';
  const start = Object.fromEntries(TAGS.map((name) => [name, ofSource(name)]));
  return (
    <div className="grid gap-3">
      <Choice
        name="Tags"
        value={mode}
        onChange={(value) => set({ tags: value === 'own' ? start : value })}
        options={[
          { value: 'none' as const, label: 'none' },
          { value: 'keep' as const, label: 'those of the source', detail: String(facts.tags.length) },
          { value: 'own' as const, label: 'these' },
        ]}
      />
      {own && (
        <div className="flex flex-wrap gap-x-8 gap-y-3">
          {TAGS.map((name) => (
            <DraftField
              key={name}
              label={name}
              value={own[name] ?? ''}
              isValid={(text) => text.length <= WRAP_LIMITS.longestTag}
              onChange={(value) => set({ tags: { ...own, [name]: value } })}
            />
          ))}
        </div>
      )}
    </div>
  );
}

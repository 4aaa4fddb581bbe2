import { containerOf, containers, encodingTitle } from '@tambur/core';
import { useEffect, useMemo, useState } from 'react';
import { Choice } from '../../ui/choice.tsx';
import type { PanelProps } from '../station-panel.tsx';

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
function useFingerprint(bytes: Uint8Array | undefined): string {
  const [known, setKnown] = useState<{ bytes: Uint8Array; hex: string } | null>(null);
  useEffect(() => {
    if (!bytes) return;
    let isStale = false;
    void crypto.subtle.digest('SHA-256', bytes as Uint8Array<ArrayBuffer>).then((digest) => {
      const hex = Array.from(new Uint8Array(digest), (byte) => byte.toString(16).padStart(2, '0')).join('');
      if (!isStale) setKnown({ bytes, hex });
    });
    return () => {
      isStale = true;
    };
  }, [bytes]);
  return known && known.bytes === bytes ? known.hex : '';
}

/** Container, encoding, extension, and the first bytes of the finished file. */
export function WrapPanel({ chain, settings, preview, onChange }: PanelProps) {
  const { container, encoding, extension, storageAttribute } = chain.stations.wrap.plan;
  const wish = settings.wrap === 'automatic' ? {} : settings.wrap;
  const fingerprint = useFingerprint(preview?.bytes);
  const head = useMemo(() => (preview ? headOf(preview.bytes) : ''), [preview]);
  const choose = (id: string) => {
    const { carries, extensions } = containerOf(id);
    const fitting = carries.includes(encoding) ? encoding : (carries[0] ?? encoding);
    onChange({ wrap: { ...wish, container: id, encoding: fitting, extension: extensions[0] ?? extension } });
  };
  return (
    <div className="grid gap-4">
      <Choice
        name="Container"
        value={container}
        onChange={choose}
        options={containers.map(({ id, title }) => ({ value: id, label: title }))}
      />
      <Choice
        name="Encoding"
        value={encoding}
        onChange={(value) => onChange({ wrap: { ...wish, encoding: value } })}
        options={containerOf(container).carries.map((id) => ({ value: id, label: encodingTitle(id) }))}
      />
      <div className="flex flex-wrap gap-x-8 gap-y-3">
        <TextField
          key={`extension ${extension}`}
          label="Extension"
          value={extension}
          pattern={/^[A-Za-z0-9]{1,8}$/}
          onChange={(value) => onChange({ wrap: { ...wish, extension: value } })}
        />
        {container === 'c-header' && (
          <TextField
            key={`attribute ${storageAttribute}`}
            label="Storage attribute"
            value={storageAttribute}
            pattern={/^[\w\s()",.]{0,80}$/}
            onChange={(value) => onChange({ wrap: { ...wish, storageAttribute: value } })}
          />
        )}
      </div>
      {preview && (
        <figure className="min-w-0">
          <figcaption className="text-sm text-graphite">{preview.fileName} begins</figcaption>
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolling region must be reachable by keyboard */}
          <pre tabIndex={0} className="figure mt-1 max-h-44 overflow-auto border border-hairline bg-paper p-2 text-xs">
            {head}
          </pre>
          <p className="figure mt-1 text-xs break-all text-graphite">
            SHA-256 <span data-testid="fingerprint">{fingerprint}</span>
          </p>
        </figure>
      )}
    </div>
  );
}

interface TextFieldProps {
  readonly label: string;
  readonly value: string;
  readonly pattern: RegExp;
  readonly onChange: (value: string) => void;
}

function TextField({ label, value, pattern, onChange }: TextFieldProps) {
  const [text, setText] = useState(value);
  const isValid = pattern.test(text);
  const take = () => {
    if (!isValid) setText(value);
    else if (text !== value) onChange(text);
  };
  return (
    <label className="block">
      <span className="label">{label}</span>
      <input
        className="figure mt-1 block w-44 border-b border-rule bg-transparent py-1 focus:border-pine focus:outline-none aria-invalid:border-brick"
        aria-invalid={!isValid}
        value={text}
        spellCheck={false}
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === 'Enter') take();
          if (event.key === 'Escape') setText(value);
        }}
      />
    </label>
  );
}

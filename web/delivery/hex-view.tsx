import {
  type ByteField,
  byteFieldsOf,
  type Facts,
  findOutContainer,
  formatCount,
  formatLevel,
  sampleAt,
} from '@tambur/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Fragment, type KeyboardEvent, useMemo, useRef, useState } from 'react';
import { Button } from '../ui/button.tsx';
import { DraftField } from '../ui/field.tsx';
import { useIsNarrow } from '../ui/use-narrow.ts';
import { BLOCK, useBlocks, useHeadAndTail } from './file-bytes.ts';

interface Props {
  readonly href: string;
  readonly size: number;
  /** Of the sound in it; undefined where it holds none, or several. */
  readonly facts: Facts | undefined;
}

/** Pixels of a line. */
const LINE = 20;
/** A scrolled view is no higher than browsers can show: so many lines at a time. */
const MOST_LINES = 250_000;

const KINDS: Readonly<Record<ByteField['kind'], string>> = {
  header: 'bg-pine-tint',
  tag: 'bg-saffron-tint',
  sound: '',
  other: 'bg-hairline/60',
};

/** The same beside their names. */
const EDGES: Readonly<Record<ByteField['kind'], string>> = {
  header: 'border-l-pine',
  tag: 'border-l-saffron-mark',
  sound: 'border-l-transparent',
  other: 'border-l-rule',
};

const hex = (value: number, digits: number) => value.toString(16).padStart(digits, '0');
const shown = (byte: number) => (byte >= 0x20 && byte < 0x7f ? String.fromCharCode(byte) : '\u00b7');

/** The bytes of a file: their offsets, hexadecimal, as text, and what they say. */
export function HexView({ href, size, facts }: Props) {
  const perLine = useIsNarrow() ? 8 : 16;
  const lines = Math.ceil(size / perLine);
  const ends = useHeadAndTail(href, size);
  const container = facts && findOutContainer(facts.container);
  const isBare = container?.describesItself === false && !container.textOptions;
  const fields = useMemo(() => (ends ? byteFieldsOf(ends, isBare) : []), [ends, isBare]);
  const [base, setBase] = useState(0);
  const [pointed, setPointed] = useState<number | null>(null);
  const list = useRef<HTMLDivElement>(null);
  const count = Math.min(MOST_LINES, lines - base);
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => list.current,
    estimateSize: () => LINE,
    overscan: 10,
  });
  const rows = virtual.getVirtualItems();
  const firstByte = (base + (rows[0]?.index ?? 0)) * perLine;
  const lastByte = Math.min(size - 1, (base + (rows.at(-1)?.index ?? 0) + 1) * perLine);
  const blocks = Array.from(
    { length: Math.floor(lastByte / BLOCK) - Math.floor(firstByte / BLOCK) + 1 },
    (_, i) => Math.floor(firstByte / BLOCK) + i,
  );
  const { file, has, error } = useBlocks(href, size, size > 0 ? blocks : []);
  const fieldAt = (offset: number) => fields.find(({ start, end }) => offset >= start && offset < end);
  const current = pointed === null ? undefined : fieldAt(pointed);
  const sample =
    pointed !== null && facts && current?.kind === 'sound' && has(pointed)
      ? sampleAt(file, facts, current, pointed)
      : null;

  const goTo = (offset: number) => {
    const line = Math.floor(offset / perLine);
    const start = lines > MOST_LINES ? Math.max(0, Math.min(lines - MOST_LINES, line - MOST_LINES / 2)) : 0;
    setBase(Math.floor(start));
    setPointed(offset);
    requestAnimationFrame(() => virtual.scrollToIndex(line - Math.floor(start), { align: 'center' }));
  };
  /** Arrows go from byte to byte, and from line to line. */
  const keyed = (event: KeyboardEvent) => {
    const steps: Readonly<Record<string, number>> = {
      ArrowLeft: -1,
      ArrowRight: 1,
      ArrowUp: -perLine,
      ArrowDown: perLine,
    };
    const step = steps[event.key];
    if (step === undefined) return;
    event.preventDefault();
    goTo(Math.min(size - 1, Math.max(0, (pointed ?? -step) + step)));
  };
  const offsetIn = (text: string): number | null => {
    const value = /^0x[0-9a-f]+$/i.test(text.trim()) ? Number.parseInt(text, 16) : Number(text);
    return text.trim() !== '' && Number.isInteger(value) && value >= 0 && value < size ? value : null;
  };
  const highlighted = (offset: number): string => {
    if (sample && offset >= sample.start && offset < sample.end) return 'bg-pine text-paper';
    const field = fieldAt(offset);
    const look = field ? KINDS[field.kind] : '';
    return field && field === current && field.kind !== 'sound' ? 'bg-pine text-paper' : look;
  };

  return (
    <div>
      <div className="flex flex-wrap items-end gap-4 pb-2">
        <DraftField
          label="Go to offset"
          className="w-28"
          value=""
          isValid={(text) => text === '' || offsetIn(text) !== null}
          onChange={(text) => {
            const offset = offsetIn(text);
            if (offset !== null) goTo(offset);
          }}
        />
        <p role="status" className="figure min-h-10 flex-1 text-sm">
          {pointed !== null && (
            <>
              0x{hex(pointed, 6)} ({formatCount(pointed)})
              {current && `: ${current.name}${current.value && current.kind !== 'sound' ? `, ${current.value}` : ''}`}
              {sample &&
                (sample.values.length
                  ? `, frame ${formatCount(sample.frame)}: ${sample.values.map((value) => `${value.toFixed(5)} (${formatLevel(Math.abs(value))})`).join(', ')}`
                  : `, block from frame ${formatCount(sample.frame)}`)}
            </>
          )}
        </p>
      </div>
      {error && (
        <p role="alert" className="text-sm text-brick">
          {error.message}
        </p>
      )}
      <div className="grid gap-4 wide:grid-cols-[auto_minmax(0,1fr)]">
        <section
          ref={list}
          aria-label="Bytes"
          // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls has to be reached by key
          tabIndex={0}
          onKeyDown={keyed}
          className="figure h-80 max-w-full overflow-auto border border-hairline bg-sheet text-xs leading-5"
          style={{ width: `${14 + 4.25 * perLine}ch` }}
          onPointerLeave={() => setPointed(null)}
        >
          <div
            className="relative"
            style={{ height: virtual.getTotalSize(), width: `${8 + 4 * perLine}ch`, minWidth: '100%' }}
          >
            {rows.map(({ index, start }) => {
              const from = (base + index) * perLine;
              const bytes = file.read(from, from + perLine);
              const cells = Array.from(bytes, (byte, i) => ({ byte, offset: from + i }));
              return (
                <div
                  key={index}
                  className="absolute inset-x-0 flex gap-3 px-2 whitespace-pre"
                  style={{ top: start, height: LINE }}
                >
                  <span className="text-graphite">{hex(from, 6)}</span>
                  <span>
                    {cells.map(({ byte, offset }) => (
                      <Fragment key={offset}>
                        <span
                          data-offset={offset}
                          className={highlighted(offset)}
                          onPointerEnter={() => setPointed(offset)}
                        >
                          {has(offset) ? hex(byte, 2) : '  '}
                        </span>
                        {(offset + 1) % 8 === 0 ? '  ' : ' '}
                      </Fragment>
                    ))}
                  </span>
                  <span>
                    {cells.map(({ byte, offset }) => (
                      <span key={offset} className={highlighted(offset)} onPointerEnter={() => setPointed(offset)}>
                        {has(offset) ? shown(byte) : ' '}
                      </span>
                    ))}
                  </span>
                </div>
              );
            })}
          </div>
        </section>
        {fields.length > 0 && (
          <ol className="max-h-80 overflow-y-auto border-t border-hairline text-sm" aria-label="What the bytes say">
            {fields.map((field) => (
              <li
                key={`${field.start} ${field.name}`}
                className={`border-b border-l-4 border-b-hairline ${EDGES[field.kind]}`}
              >
                <Button
                  kind="bare"
                  onClick={() => goTo(field.start)}
                  className={`grid w-full grid-cols-[4.5rem_minmax(0,1fr)_minmax(0,1fr)] gap-2 px-1 py-0.5 text-left ${field === current ? 'bg-pine text-paper' : 'hover:bg-pine-tint'}`}
                >
                  <span className="figure">0x{hex(field.start, 4)}</span>
                  <span className="truncate" title={field.name}>
                    {field.name}
                  </span>
                  <span className="figure truncate" title={field.value}>
                    {field.value}
                  </span>
                </Button>
              </li>
            ))}
          </ol>
        )}
      </div>
    </div>
  );
}

import { type ByteField, byteFieldsOf, type Facts, findOutContainer, sampleAt } from '@tambur/core';
import { useVirtualizer, type VirtualItem } from '@tanstack/react-virtual';
import { Fragment, useMemo, useRef, useState } from 'react';
import { Button } from '../ui/button.tsx';
import { DraftField } from '../ui/field.tsx';
import { useIsNarrow } from '../ui/use-narrow.ts';
import { BLOCK, useBlocks, useHeadAndTail } from './file-bytes.ts';
import { blocksOf, captionOf, characterOf, firstLineFor, hex, MOST_LINES, offsetAfter, offsetIn } from './hex-lines.ts';

interface Props {
  readonly href: string;
  readonly size: number;
  /** Of the sound in it; undefined if it holds none, or several. */
  readonly facts: Facts | undefined;
}

/** Pixels of a line. */
const LINE = 20;

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
  const { file, has, error } = useBlocks(href, size, size > 0 ? blocksOf(firstByte, lastByte, BLOCK) : []);
  const fieldAt = (offset: number) => fields.find(({ start, end }) => offset >= start && offset < end);
  const current = pointed === null ? undefined : fieldAt(pointed);
  const sample =
    pointed !== null && facts && current?.kind === 'sound' && has(pointed)
      ? sampleAt(file, facts, current, pointed)
      : null;

  const goTo = (offset: number) => {
    const line = Math.floor(offset / perLine);
    const start = firstLineFor(line, lines);
    setBase(start);
    setPointed(offset);
    requestAnimationFrame(() => virtual.scrollToIndex(line - start, { align: 'center' }));
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
          isValid={(text) => text === '' || offsetIn(text, size) !== null}
          onChange={(text) => {
            const offset = offsetIn(text, size);
            if (offset !== null) goTo(offset);
          }}
        />
        <p role="status" className="figure min-h-10 flex-1 text-sm">
          {pointed !== null && captionOf(pointed, current, sample)}
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
          onKeyDown={(event) => {
            const offset = offsetAfter(event.key, pointed, perLine, size);
            if (offset === null) return;
            event.preventDefault();
            goTo(offset);
          }}
          className="figure h-80 max-w-full overflow-auto border border-hairline bg-sheet text-xs leading-5"
          style={{ width: `${14 + 4.25 * perLine}ch` }}
          onPointerLeave={() => setPointed(null)}
        >
          <div
            className="relative"
            style={{ height: virtual.getTotalSize(), width: `${8 + 4 * perLine}ch`, minWidth: '100%' }}
          >
            {rows.map((row) => {
              const from = (base + row.index) * perLine;
              const bytes = Array.from(file.read(from, from + perLine), (byte, i) => (has(from + i) ? byte : null));
              return <Line key={row.index} {...{ row, from, bytes, highlighted }} onPoint={setPointed} />;
            })}
          </div>
        </section>
        {fields.length > 0 && <Fields fields={fields} current={current} onGo={goTo} />}
      </div>
    </div>
  );
}

interface LineProps {
  readonly row: VirtualItem;
  /** Offset of its first byte. */
  readonly from: number;
  /** Null for a byte that is not there yet. */
  readonly bytes: readonly (number | null)[];
  /** Classes of the byte at an offset. */
  readonly highlighted: (offset: number) => string;
  readonly onPoint: (offset: number) => void;
}

/** A line: its offset, its bytes in hexadecimal, and the same as text. */
function Line({ row, from, bytes, highlighted, onPoint }: LineProps) {
  const cells = bytes.map((byte, i) => ({ byte, offset: from + i }));
  return (
    <div className="absolute inset-x-0 flex gap-3 px-2 whitespace-pre" style={{ top: row.start, height: LINE }}>
      <span className="text-graphite">{hex(from, 6)}</span>
      <span>
        {cells.map(({ byte, offset }) => (
          <Fragment key={offset}>
            <span data-offset={offset} className={highlighted(offset)} onPointerEnter={() => onPoint(offset)}>
              {byte === null ? '  ' : hex(byte, 2)}
            </span>
            {(offset + 1) % 8 === 0 ? '  ' : ' '}
          </Fragment>
        ))}
      </span>
      <span>
        {cells.map(({ byte, offset }) => (
          <span key={offset} className={highlighted(offset)} onPointerEnter={() => onPoint(offset)}>
            {byte === null ? ' ' : characterOf(byte)}
          </span>
        ))}
      </span>
    </div>
  );
}

interface FieldsProps {
  readonly fields: readonly ByteField[];
  readonly current: ByteField | undefined;
  readonly onGo: (offset: number) => void;
}

/** What each stretch of bytes says; a click leads to it. */
function Fields({ fields, current, onGo }: FieldsProps) {
  return (
    <ol className="max-h-80 overflow-y-auto border-t border-hairline text-sm" aria-label="What the bytes say">
      {fields.map((field) => (
        <li
          key={`${field.start} ${field.name}`}
          className={`border-b border-l-4 border-b-hairline ${EDGES[field.kind]}`}
        >
          <Button
            kind="bare"
            onClick={() => onGo(field.start)}
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
  );
}

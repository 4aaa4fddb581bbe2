import { readBytesAsText } from '@tambur/core';
import { useQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Copy } from 'lucide-react';
import { useMemo, useRef } from 'react';
import { fetchBytes } from '../api/client.ts';
import { Button } from '../ui/button.tsx';
import { notify, notifyFailure } from '../ui/notify.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { highlighted } from './highlight.ts';

const LINE = 20;

const TONES: Readonly<Record<string, string>> = {
  comment: 'text-graphite italic',
  string: 'text-saffron',
  number: 'text-pine',
  keyword: 'font-semibold',
  built_in: 'font-semibold',
  type: 'font-semibold',
  meta: 'text-brick',
  name: 'text-pine',
  attr: 'text-pine',
};

/** A delivered text, line by line, to read and to copy. */
export function TextView({ href, path }: { readonly href: string; readonly path: string }) {
  const text = useQuery({
    queryKey: ['text', href],
    queryFn: async ({ signal }) => readBytesAsText(await fetchBytes(href, signal)),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 10_000,
  });
  const lines = useMemo(() => text.data?.split(/\r\n|\r|\n/) ?? [], [text.data]);
  const list = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => list.current,
    estimateSize: () => LINE,
    overscan: 10,
  });
  if (text.error) return <Failed error={text.error} retry={() => void text.refetch()} />;
  if (text.data === undefined) return <Loading what="the text" />;
  const copy = () =>
    navigator.clipboard.writeText(text.data).then(
      () => notify('Copied.'),
      () => notifyFailure('The browser does not let this page copy; download the file instead.'),
    );
  return (
    <div>
      <div className="flex justify-end pb-1">
        <Button kind="quiet" onClick={() => void copy()}>
          <Copy className="size-4" aria-hidden /> Copy
        </Button>
      </div>
      <section
        ref={list}
        className="figure h-96 overflow-auto border border-hairline bg-sheet text-xs leading-5"
        aria-label={`Text of ${path}`}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls has to be reached by key
        tabIndex={0}
      >
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, start }) => (
            <div key={index} className="absolute flex gap-3 px-2 whitespace-pre" style={{ top: start, height: LINE }}>
              <span className="w-10 text-right text-graphite select-none">{index + 1}</span>
              <span>
                {highlighted(lines[index] ?? '', path).map(({ text: piece, kind }, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: pieces do not move
                  <span key={i} className={TONES[kind] ?? ''}>
                    {piece}
                  </span>
                ))}
              </span>
            </div>
          ))}
        </div>
      </section>
    </div>
  );
}

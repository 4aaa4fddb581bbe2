import type { Verdict } from '@tambur/core';

/** A mark for each verdict: its shape tells as much as its colour. */
const marks: Record<Verdict, { text: string; tone: string; path: string }> = {
  meets: { text: 'meets', tone: 'text-pine', path: 'M2 6.5 5 9.5 10 3' },
  breaks: { text: 'breaks', tone: 'text-brick', path: 'M2.5 2.5l7 7M9.5 2.5l-7 7' },
  advises: { text: 'advises', tone: 'text-saffron', path: 'M6 1.5v4.5M6 10v.01' },
  unknown: { text: 'unknown', tone: 'text-graphite', path: 'M2 6h8' },
};

export function VerdictMark({ verdict, silent = false }: { verdict: Verdict; silent?: boolean }) {
  const { text, tone, path } = marks[verdict];
  return (
    <span className={`inline-flex items-center gap-1 text-sm ${tone}`}>
      <svg viewBox="0 0 12 12" className="size-3 shrink-0" aria-hidden="true">
        <path d={path} fill="none" stroke="currentColor" strokeWidth="2" strokeLinecap="square" />
      </svg>
      <span className={silent ? 'sr-only' : 'font-medium'}>{text}</span>
    </span>
  );
}

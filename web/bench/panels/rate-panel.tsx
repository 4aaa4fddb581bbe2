import {
  type ClipSettings,
  FRACTION,
  formatBytes,
  formatDb,
  formatRate,
  hertz,
  InputError,
  type NumberRange,
  RATE_RANGE,
  settle,
  soundBytesOf,
  TIMER_RANGES,
  USUAL_RATES,
} from '@tambur/core';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useMemo, useState } from 'react';
import { lostAt, pointsOf, type Spectrum } from '../../sound/spectrum.ts';
import { measureWorker } from '../../sound/workers/workers.ts';
import { Button } from '../../ui/button.tsx';
import { ChoiceTable } from '../../ui/choice-table.tsx';
import { NumberField } from '../../ui/number-field.tsx';
import { Toggle } from '../../ui/toggle.tsx';
import type { PanelProps } from './panel.ts';
import { type Change, wishWith } from './wish.ts';

const Spectrograms = lazy(() => import('../spectrogram.tsx'));
const SpectrumChart = lazy(() => import('../spectrum-chart.tsx'));

type Wish = Exclude<ClipSettings['rate'], 'automatic'>;

/** A processor's clock and what a timer divides it by. */
const USUAL_CLOCK = 16_000_000;
const DIVIDERS: NumberRange = { least: 1, most: 1_000_000 };

/** What lies so far below the whole is not heard at all, and hardly missed, dB (common practice, no source). */
const UNHEARD = -60;
const HARDLY_MISSED = -40;

/** What a lower rate takes away: whether one would hear that, and how far below the whole it lies. */
const lostWords = (db: number): string =>
  db < UNHEARD ? 'none heard' : db < HARDLY_MISSED ? 'hardly any' : formatDb(db, 'dB');

/** The rate, what each common one costs, the exact rate of a timer, and the spectrum before and after. */
export function RatePanel({ chain, settings, source, preview, onChange }: PanelProps) {
  const { to, exact, quality } = chain.stations.rate.plan;
  const { cut } = chain.stations;
  const wish: Wish = settings.rate === 'automatic' ? {} : settings.rate;
  const set = (change: Change<Wish>) => onChange({ rate: wishWith(settings.rate, change) });

  const came = useQuery({
    queryKey: ['spectrum', source.id, cut.plan.start, cut.plan.end],
    queryFn: () => measureWorker.run((remote) => remote.spectrumOfCut(source, cut.plan.start, cut.plan.end)),
    placeholderData: (before: Spectrum | undefined) => before,
    gcTime: 30_000,
  });
  const leaves = useQuery({
    queryKey: ['spectrum of the result', preview?.id],
    queryFn: () => preview && measureWorker.run((remote) => remote.spectrumOfSound(preview.pcm)),
    enabled: preview !== null,
    placeholderData: (before: Spectrum | null | undefined) => before,
    gcTime: 0,
  });
  const [isByTime, setByTime] = useState(false);
  const points = useMemo(() => (came.data ? pointsOf(came.data, leaves.data ?? null) : null), [came.data, leaves.data]);

  const costOf = (sampleRate: number): readonly string[] => {
    try {
      const bytes = formatBytes(
        soundBytesOf(settle({ ...chain.order, settings: { ...settings, rate: { sampleRate } } })),
      );
      const isLower = came.data && sampleRate < source.facts.sampleRate;
      return [bytes, isLower ? lostWords(lostAt(came.data, sampleRate)) : ''];
    } catch (error) {
      if (error instanceof InputError) return ['not possible', ''];
      throw error;
    }
  };
  const timer = typeof exact === 'string' ? FRACTION.exec(exact) : null;
  const clock = timer ? Number(timer[1]) : USUAL_CLOCK;
  const divider = timer ? Number(timer[2]) : Math.max(1, Math.round(USUAL_CLOCK / to));
  const setTimer = (of: number, by: number) => set({ sampleRate: `${Math.round(of)}/${Math.round(by)}` });
  return (
    <div className="grid gap-x-8 gap-y-3 @xl:grid-cols-[auto_minmax(0,1fr)]">
      <ChoiceTable<'automatic' | number | string>
        name="Sample rate"
        columns={['size', 'lost highs']}
        value={wish.sampleRate ?? 'automatic'}
        onChange={(rate) => set({ sampleRate: rate === 'automatic' ? undefined : rate })}
        rows={[
          { value: 'automatic', label: 'Automatic' },
          ...USUAL_RATES.map((rate) => ({ value: rate, label: formatRate(rate), figures: costOf(rate) })),
        ]}
      />
      <figure className="min-w-0">
        <div className="flex items-baseline justify-between gap-x-3">
          <figcaption className="min-w-0 text-sm text-graphite">
            {isByTime ? (
              'the darker, the louder; '
            ) : (
              <>
                dBFS; thin: as it came; <span className="text-pine">green: as it leaves</span>;{' '}
              </>
            )}
            <span className="text-brick">dashed: half the new rate</span>
          </figcaption>
          <Button kind="quiet" className="shrink-0 text-xs" onClick={() => setByTime(!isByTime)}>
            {isByTime ? 'by frequency alone' : 'by time too'}
          </Button>
        </div>
        {isByTime && (
          <div className="mt-1">
            <Suspense fallback={null}>
              <Spectrograms source={source} cut={cut.plan} preview={preview} rate={to} />
            </Suspense>
          </div>
        )}
        <div
          hidden={isByTime}
          className="mt-1 h-44"
          role="img"
          aria-label={
            came.data
              ? `Spectrum; above ${formatRate(to / 2)} the source has ${lostAt(came.data, to).toFixed(0)} dB of its energy`
              : 'Spectrum'
          }
        >
          {points ? (
            <Suspense fallback={null}>
              <SpectrumChart points={points} edge={to / 2} top={Math.max(source.facts.sampleRate, to) / 2} />
            </Suspense>
          ) : (
            <p role="status" className="pt-16 text-center text-sm text-graphite">
              {came.error ? 'The spectrum could not be measured.' : 'measuring …'}
            </p>
          )}
        </div>
      </figure>
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2 @xl:col-span-2">
        <NumberField
          label="Another rate"
          unit="Hz"
          decimals={Number.isInteger(to) ? 0 : 3}
          value={to}
          range={RATE_RANGE}
          onChange={(value) => set({ sampleRate: Math.round(value * 1000) / 1000 })}
        />
        <NumberField
          label="Timer: clock"
          unit="Hz"
          value={clock}
          range={TIMER_RANGES.clock}
          onChange={(of) => setTimer(of, divider)}
        />
        <NumberField
          label="divided by"
          unit={timer ? `= ${formatRate(hertz(exact))}` : ''}
          value={divider}
          range={DIVIDERS}
          onChange={(by) => setTimer(clock, by)}
        />
        <Toggle
          label="Draft: 80 dB, for quick looks"
          value={quality === 'draft'}
          onChange={(isDraft) => set({ quality: isDraft ? 'draft' : undefined })}
        />
      </div>
    </div>
  );
}

import {
  type ClipSettings,
  FRACTION,
  formatBytes,
  formatRate,
  hertz,
  InputError,
  RATE_RANGE,
  type Range,
  settle,
  soundBytesOf,
  TIMER_RANGES,
  USUAL_RATES,
} from '@tambur/core';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useMemo, useState } from 'react';
import { lostAt, pointsOf, type Spectrum } from '../../sound/spectrum.ts';
import { measureWorker } from '../../sound/workers/workers.ts';
import { Choice } from '../../ui/choice.tsx';
import { NumberField } from '../../ui/number-field.tsx';
import type { PanelProps } from './panel.ts';
import { type Change, wishWith } from './wish.ts';

const Spectrograms = lazy(() => import('../spectrogram.tsx'));
const SpectrumChart = lazy(() => import('../spectrum-chart.tsx'));

type Wish = Exclude<ClipSettings['rate'], 'automatic'>;

/** A processor's clock and what a timer divides it by. */
const USUAL_CLOCK = 16_000_000;
const DIVIDERS: Range = { least: 1, most: 1_000_000 };

/** What lies so far below the whole is not heard at all, and hardly missed, dB (common practice, no source). */
const UNHEARD = -60;
const HARDLY_MISSED = -40;

/** What a lower rate takes away: whether one would hear that, and how far below the whole it lies. */
const lostWords = (db: number): string =>
  db < UNHEARD
    ? 'loses nothing one hears'
    : db < HARDLY_MISSED
      ? 'loses next to nothing'
      : `duller: loses what lies ${(-db).toFixed(0)} dB below the whole`;

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
  const [look, setLook] = useState<'spectrum' | 'spectrogram'>('spectrum');
  const isByTime = look === 'spectrogram';
  const points = useMemo(() => (came.data ? pointsOf(came.data, leaves.data ?? null) : null), [came.data, leaves.data]);

  const costOf = (sampleRate: number) => {
    try {
      const bytes = formatBytes(
        soundBytesOf(settle({ ...chain.order, settings: { ...settings, rate: { sampleRate } } })),
      );
      return came.data && sampleRate < source.facts.sampleRate
        ? `${bytes}, ${lostWords(lostAt(came.data, sampleRate))}`
        : bytes;
    } catch (error) {
      if (error instanceof InputError) return undefined;
      throw error;
    }
  };
  const timer = typeof exact === 'string' ? FRACTION.exec(exact) : null;
  const clock = timer ? Number(timer[1]) : USUAL_CLOCK;
  const divider = timer ? Number(timer[2]) : Math.max(1, Math.round(USUAL_CLOCK / to));
  const setTimer = (of: number, by: number) => set({ sampleRate: `${Math.round(of)}/${Math.round(by)}` });
  return (
    <div className="grid gap-4">
      <Choice<'automatic' | number | string>
        name="Sample rate"
        value={wish.sampleRate ?? 'automatic'}
        onChange={(rate) => set({ sampleRate: rate === 'automatic' ? undefined : rate })}
        options={[
          { value: 'automatic', label: 'Automatic' },
          ...USUAL_RATES.map((rate) => ({ value: rate, label: formatRate(rate), detail: costOf(rate) })),
        ]}
      />
      <div className="flex flex-wrap items-end gap-x-8 gap-y-3">
        <NumberField
          label="Another rate"
          unit="Hz"
          decimals={Number.isInteger(to) ? 0 : 3}
          value={to}
          range={RATE_RANGE}
          onChange={(value) => set({ sampleRate: Math.round(value * 1000) / 1000 })}
        />
        <div className="flex items-end gap-x-3">
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
        </div>
        <Choice<'standard' | 'draft'>
          name="Quality"
          value={quality}
          onChange={(value) => set({ quality: value === 'draft' ? value : undefined })}
          options={[
            { value: 'standard', label: 'Standard', detail: '120 dB' },
            { value: 'draft', label: 'Draft', detail: '80 dB, for quick looks' },
          ]}
        />
      </div>
      <figure className="min-w-0">
        <div className="flex flex-wrap items-end gap-x-4 gap-y-1">
          <Choice<'spectrum' | 'spectrogram'>
            name="Seen by"
            value={look}
            onChange={setLook}
            options={[
              { value: 'spectrum', label: 'frequency' },
              { value: 'spectrogram', label: 'frequency and time' },
            ]}
          />
          <figcaption className="text-sm text-graphite">
            {isByTime ? (
              'the darker, the louder; '
            ) : (
              <>
                dB of full scale: thin, as it came; <span className="text-pine">green, as it leaves</span>;{' '}
              </>
            )}
            <span className="text-brick">dashed, half the new rate</span>
          </figcaption>
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
    </div>
  );
}

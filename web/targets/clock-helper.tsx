import {
  centsBetween,
  formatCount,
  formatRate,
  partsPerMillion,
  TIMER_RANGES,
  type Timer,
  timerRates,
} from '@tambur/core';
import { useState } from 'react';
import { Button } from '../ui/button.tsx';
import { DraftField } from '../ui/field.tsx';
import { NumberField } from '../ui/number-field.tsx';

const MINUS = '\u2212';
const signed = (value: number, decimals: number) => `${value < 0 ? MINUS : '+'}${Math.abs(value).toFixed(decimals)}`;

const { least, most } = TIMER_RANGES.prescaler;
const prescalersIn = (text: string): number[] =>
  text
    .split(/[\s,;]+/)
    .map(Number)
    .filter((value) => Number.isInteger(value) && value >= least && value <= most);

/** Rates that a timer can really make near the one wanted, each with its error; one of them is picked. */
export function ClockHelper({ onPick }: { onPick: (exact: string) => void }) {
  const [timer, setTimer] = useState<Timer>({
    clock: 16_000_000,
    prescalers: [1, 8, 64, 256, 1024],
    counterBits: 8,
  });
  const [wanted, setWanted] = useState(16_000);
  const rates = timerRates(timer, wanted);
  return (
    <section aria-label="Rates of a timer" className="border border-rule bg-paper px-3 py-2">
      <p className="text-sm text-graphite">clock / (prescaler × (top + 1)): the rates that a timer can really make</p>
      <div className="mt-2 flex flex-wrap gap-x-6 gap-y-2">
        <NumberField
          label="Clock"
          unit="Hz"
          value={timer.clock}
          range={TIMER_RANGES.clock}
          onChange={(clock) => setTimer({ ...timer, clock })}
        />
        <DraftField
          label="Prescalers"
          className="w-48"
          value={timer.prescalers.join(', ')}
          isValid={(text) => prescalersIn(text).length > 0}
          onChange={(text) => setTimer({ ...timer, prescalers: prescalersIn(text) })}
        />
        <NumberField
          label="Counter"
          unit="bits"
          value={timer.counterBits}
          range={TIMER_RANGES.counterBits}
          onChange={(counterBits) => setTimer({ ...timer, counterBits })}
        />
        <NumberField label="Wanted" unit="Hz" value={wanted} range={TIMER_RANGES.wanted} onChange={setWanted} />
      </div>
      {rates.length === 0 ? (
        <p className="mt-2 text-sm text-brick">
          This timer cannot come close to that rate; choose a wider counter or another prescaler.
        </p>
      ) : (
        <div className="relative mt-2 overflow-x-auto">
          <table className="w-full text-left text-sm whitespace-nowrap">
            <thead className="label">
              <tr>
                <th className="py-1 pr-3">rate</th>
                <th className="pr-3">prescaler</th>
                <th className="pr-3">top</th>
                <th className="pr-3">off by</th>
                <th className="pr-3">ppm</th>
                <th className="pr-3">cents</th>
                <th className="sr-only">pick</th>
              </tr>
            </thead>
            <tbody className="figure">
              {rates.map(({ prescaler, top, exact, hz }) => (
                <tr key={exact} className="border-t border-hairline">
                  <td className="py-0.5 pr-3">{formatRate(hz)}</td>
                  <td className="pr-3">{formatCount(prescaler)}</td>
                  <td className="pr-3">{formatCount(top)}</td>
                  <td className="pr-3">{signed(hz - wanted, 2)} Hz</td>
                  <td className="pr-3">{signed(partsPerMillion(hz, wanted), 0)}</td>
                  <td className="pr-3">{signed(centsBetween(hz, wanted), 2)}</td>
                  <td className="text-right">
                    <Button kind="quiet" aria-label={`Use ${formatRate(hz)}`} onClick={() => onPick(exact)}>
                      Use
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}

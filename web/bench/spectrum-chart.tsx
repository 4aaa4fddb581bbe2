import { formatDb, formatRate } from '@tambur/core';
import { Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { SpectrumPoint } from '../sound/spectrum.ts';

interface Props {
  readonly points: readonly SpectrumPoint[];
  /** Half of the new rate, Hz: nothing above survives. */
  readonly edge: number;
  readonly top: number;
}

const TICKS = [50, 100, 200, 500, 1000, 2000, 5000, 10_000, 20_000];
const shortHz = (hz: number) => (hz < 1000 ? `${hz}` : `${hz / 1000}k`);
const text = { fontSize: 12, fill: 'var(--graphite)' };

/** Level by frequency, before and after. */
export default function SpectrumChart({ points, edge, top }: Props) {
  return (
    <ResponsiveContainer width="100%" height="100%">
      <LineChart data={[...points]} margin={{ top: 6, right: 8, bottom: 0, left: -12 }}>
        <XAxis
          dataKey="hz"
          type="number"
          scale="log"
          domain={[30, top]}
          ticks={TICKS.filter((hz) => hz < top)}
          tickFormatter={shortHz}
          tick={text}
          stroke="var(--rule)"
          allowDataOverflow
        />
        <YAxis
          domain={[-120, 0]}
          ticks={[0, -30, -60, -90, -120]}
          interval={0}
          tickFormatter={(db: number) => String(db).replace('-', '\u2212')}
          tick={text}
          stroke="var(--rule)"
        />
        <Tooltip
          isAnimationActive={false}
          contentStyle={{ background: 'var(--paper)', border: '1px solid var(--ink)', borderRadius: 0, fontSize: 12 }}
          labelFormatter={(hz) => formatRate(Math.round(Number(hz)))}
          formatter={(value, name) => [formatDb(Number(value), 'dB'), name]}
        />
        <ReferenceLine x={edge} stroke="var(--brick)" strokeDasharray="4 3" />
        <Line
          name="came"
          dataKey="came"
          stroke="var(--graphite)"
          strokeWidth={1}
          dot={false}
          isAnimationActive={false}
        />
        <Line
          name="leaves"
          dataKey="leaves"
          stroke="var(--pine)"
          strokeWidth={1.75}
          dot={false}
          isAnimationActive={false}
        />
      </LineChart>
    </ResponsiveContainer>
  );
}

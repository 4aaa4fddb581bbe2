import {
  askedBy,
  type ClipSettings,
  formatBytes,
  formatDb,
  formatPercent,
  lostAtRate,
  type StationId,
  type Target,
  worstOf,
} from '@tambur/core';
import { useState } from 'react';
import { useStore } from 'zustand';
import type { LanePlayer } from '../sound/player.ts';
import { useAct } from '../ui/acts.ts';
import { Button } from '../ui/button.tsx';
import { Fold } from '../ui/fold.tsx';
import { VerdictMark } from '../ui/verdict.tsx';
import { BlindTest } from './blind-test.tsx';
import { KEYS, withKey } from './keys.ts';
import type { Compared } from './use-alternatives.ts';

interface Props {
  readonly compared: readonly Compared[];
  readonly player: LanePlayer;
  readonly target: Target;
  readonly isOpen: boolean;
  readonly onOpen: (isOpen: boolean) => void;
  readonly onTake: (wish: ClipSettings[StationId]) => void;
}

/** What the station could do instead: what each costs, heard by its number, taken by a key. */
export function Alternatives({ compared, player, target, isOpen, onOpen, onTake }: Props) {
  /** What is being told from the source; in such a test the source is heard as well. */
  const [blind, setBlind] = useState<Compared | null>(null);
  const heard = useStore(player.store, (state) => state.heard);
  const chosen = compared.find(({ label }) => label === heard);
  const take = () => chosen && onTake(chosen.wish);
  useAct(KEYS.take, () => isOpen && take());
  return (
    <Fold
      title="Compare what else there is"
      isOpen={isOpen}
      onToggle={onOpen}
      className="mt-2 border-t border-hairline pt-1"
    >
      <div className="overflow-x-auto">
        <table className="mt-1 w-full text-sm">
          <thead>
            <tr className="text-left text-graphite">
              <th className="w-6">
                <span className="sr-only">Key</span>
              </th>
              <th className="font-normal">Heard</th>
              <th className="px-1.5 text-right font-normal">Size</th>
              <th
                className="px-1.5 text-right font-normal"
                title="How much quieter the sound gets by what is above half of the rate"
              >
                Lost
              </th>
              <th
                className="px-1.5 text-right font-normal"
                title="Signal to noise: the sound's power over that of the rounding"
              >
                SNR
              </th>
              <th className="px-2 font-normal">Sheet</th>
            </tr>
          </thead>
          <tbody>
            {compared.map((each, i) => (
              <Row
                key={each.label}
                number={i + 1}
                compared={each}
                target={target}
                isHeard={each.label === heard}
                onHear={() => player.hear(each.label)}
              />
            ))}
          </tbody>
        </table>
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Button disabled={!chosen} title={withKey('Take what is heard', 'take')} onClick={take}>
          Take {chosen ? chosen.label : 'what is heard'}
        </Button>
        <Button disabled={!chosen?.sound} onClick={() => setBlind(chosen ?? null)}>
          Blind test …
        </Button>
        <span className="text-xs text-graphite">Number keys hear each from the same place, S the source.</span>
      </div>
      {blind && <BlindTest player={player} against={blind} onClose={() => setBlind(null)} />}
    </Fold>
  );
}

interface RowProps {
  readonly number: number;
  readonly compared: Compared;
  readonly target: Target;
  readonly isHeard: boolean;
  readonly onHear: () => void;
}

function Row({ number, compared: { label, chain, made, refused }, target, isHeard, onHear }: RowProps) {
  const budget = askedBy(target).find((requirement) => requirement.kind === 'set-size');
  const bytes = made?.facts.soundBytes ?? made?.facts.bytes;
  const lost = lostAtRate(chain.order.facts, chain.stations.rate.plan.to);
  const worst = made && worstOf(made.findings);
  const noise = made?.report.signalToNoiseDb ?? null;
  return (
    <tr className={`border-t border-hairline ${isHeard ? 'bg-pine-tint' : ''}`}>
      <td className="figure w-6 py-1 text-graphite">{number}</td>
      <td>
        <Button
          kind="bare"
          aria-pressed={isHeard}
          disabled={!made}
          onClick={onHear}
          className="w-full py-1 text-left @xl:whitespace-nowrap"
        >
          <span className={isHeard ? 'font-semibold' : ''}>{label}</span>
        </Button>
      </td>
      {refused ? (
        <td colSpan={4} className="px-2 text-brick">
          {refused}
        </td>
      ) : made === null || bytes === undefined ? (
        <td colSpan={4} className="px-2 text-graphite">
          being made …
        </td>
      ) : (
        <>
          <td className="figure px-1.5 text-right whitespace-nowrap">
            {formatBytes(bytes)}
            {budget?.kind === 'set-size' && (
              <span className="text-xs text-graphite"> {formatPercent(bytes / budget.most)}</span>
            )}
          </td>
          <td className="figure px-1.5 text-right whitespace-nowrap">
            {lost === null ? 'not known' : lost < 0.05 ? 'nothing' : formatDb(lost, 'dB')}
          </td>
          <td className="figure px-1.5 text-right whitespace-nowrap">{noise === null ? '–' : formatDb(noise, 'dB')}</td>
          <td className="px-1 whitespace-nowrap">{worst && <VerdictMark verdict={worst} />}</td>
        </>
      )}
    </tr>
  );
}

import { chanceOfGuessing, formatPercent } from '@tambur/core';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { listening } from '../sound/listening.ts';
import type { LanePlayer } from '../sound/player.ts';
import { Button } from '../ui/button.tsx';
import { Modal } from '../ui/modal.tsx';
import { useKey } from '../ui/use-key.ts';
import type { Compared } from './use-alternatives.ts';

interface Props {
  readonly player: LanePlayer;
  readonly against: Compared;
  readonly onClose: () => void;
}

/** Which of the two is the source in this round. */
const shuffled = (): 0 | 1 => (Math.random() < 0.5 ? 0 : 1);

/** Below this chance of guessing, answers are taken to be heard (common practice in listening tests). */
const HEARD = 0.05;

/** Which of two is the source? As many rounds as wanted, and then what the answers are worth. */
export function BlindTest({ player, against, onClose }: Props) {
  const [isSource, setSource] = useState(shuffled);
  const [rounds, setRounds] = useState<readonly boolean[]>([]);
  const [isOver, setOver] = useState(false);
  const [playing, setPlaying] = useState<0 | 1>(0);
  const isRunning = useStore(player.store, (state) => state.playing);
  const right = rounds.filter(Boolean).length;

  const hear = (which: 0 | 1) => {
    setPlaying(which);
    player.hear(which === isSource ? 'source' : against.label);
  };
  const answer = (which: 0 | 1) => {
    setRounds([...rounds, which === isSource]);
    setSource(shuffled());
  };
  // Each round starts with the first, whatever that is.
  // biome-ignore lint/correctness/useExhaustiveDependencies: a round begins when one has been answered
  useEffect(() => {
    if (!isOver) hear(0);
  }, [rounds.length, isOver]);
  // Loudness would give it away; afterwards it is as it was before.
  useEffect(() => {
    const { isMatched } = listening.getState();
    listening.setState({ isMatched: true });
    return () => {
      listening.setState({ isMatched });
      player.listen(against.label);
    };
  }, [player, against.label]);
  useKey('1', () => hear(0), { isInDialog: true });
  useKey('2', () => hear(1), { isInDialog: true });

  return (
    <Modal
      title={`Blind: the source, or ${against.label}?`}
      onClose={onClose}
      actions={
        isOver ? (
          <Button kind="main" onClick={onClose}>
            Close
          </Button>
        ) : (
          <Button disabled={rounds.length === 0} onClick={() => setOver(true)}>
            Stop, and tell me
          </Button>
        )
      }
    >
      {isOver ? (
        <Worth right={right} rounds={rounds.length} label={against.label} />
      ) : (
        <div className="grid gap-4">
          <p>
            Listen to both, as often as you like, from the same place and equally loud. Which of them is the source?
          </p>
          <div className="grid grid-cols-2 gap-3">
            {([0, 1] as const).map((which) => (
              <div key={which} className="grid gap-2">
                <Button
                  aria-pressed={playing === which}
                  className={playing === which ? 'border-pine! bg-pine-tint' : ''}
                  onClick={() => hear(which)}
                >
                  Hear {which === 0 ? 'the first (1)' : 'the second (2)'}
                </Button>
                <Button kind="main" onClick={() => answer(which)}>
                  {which === 0 ? 'The first is the source' : 'The second is the source'}
                </Button>
              </div>
            ))}
          </div>
          <p className="flex justify-between text-sm text-graphite" role="status">
            <span>
              Round <span className="figure">{rounds.length + 1}</span>
            </span>
            <Button kind="quiet" onClick={() => player.toggle()}>
              {isRunning ? 'Pause' : 'Play'}
            </Button>
          </p>
        </div>
      )}
    </Modal>
  );
}

/** What the answers say. */
function Worth({ right, rounds, label }: { readonly right: number; readonly rounds: number; readonly label: string }) {
  const chance = chanceOfGuessing(right, rounds);
  return (
    <div className="grid gap-2" role="status">
      <p className="text-lg">
        <span className="figure">{right}</span> of <span className="figure">{rounds}</span> right.
      </p>
      <p>
        Someone who guesses gets as many right, or more, in <span className="figure">{formatPercent(chance)}</span> of
        all such tests (binomial, p = <span className="figure">{chance.toFixed(4)}</span>).
      </p>
      <p>
        {chance <= HEARD
          ? `You hear the difference: ${label} is not the same to you.`
          : rounds < 5
            ? 'These are too few rounds to tell: five right out of five would be enough.'
            : `Nothing shows that you hear a difference: ${label} is good enough for your ears.`}
      </p>
    </div>
  );
}

import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { Volume2 } from 'lucide-react';
import { useStore } from 'zustand';
import { LEAD_RANGE, listening, VOLUME_RANGE } from '../sound/listening.ts';
import { Button } from '../ui/button.tsx';
import { NumberField } from '../ui/number-field.tsx';
import { Slider } from '../ui/slider.tsx';
import { Toggle } from '../ui/toggle.tsx';
import { KEYS } from './keys.ts';

interface Props {
  readonly loop: boolean;
  readonly onCut: () => void;
  readonly onEnd: () => void;
}

/** How loud, and from where else than from the playhead. */
export function ListeningMenu({ loop, onCut, onEnd }: Props) {
  const { volume, lead, isMatched } = useStore(listening);
  return (
    <Popover>
      <PopoverButton as={Button} kind="icon" aria-label="Listening" title="Listening: volume, the cut, its end">
        <Volume2 className="size-4" aria-hidden />
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: 'top start', gap: 6, padding: 8 }}
        className="z-50 grid w-72 gap-3 border border-ink bg-paper p-3"
      >
        <Slider
          label="Volume"
          shown={`${Math.round(100 * volume)} %`}
          value={volume}
          range={VOLUME_RANGE}
          step={0.01}
          onChange={(value) => listening.setState({ volume: value })}
        />
        <Toggle
          label="Everything equally loud"
          value={isMatched}
          onChange={(next) => listening.setState({ isMatched: next })}
        />
        <div className="grid gap-1.5">
          <Button className="justify-between!" onClick={onCut}>
            Play the cut <kbd className="figure text-graphite">{KEYS.playCut.shown}</kbd>
          </Button>
          <Button className="justify-between!" onClick={onEnd}>
            {loop ? 'Play across the seam' : 'Play its end'}{' '}
            <kbd className="figure text-graphite">{KEYS.playEnd.shown}</kbd>
          </Button>
        </div>
        <NumberField
          label={loop ? 'Before the seam' : 'Before the end'}
          unit="s"
          decimals={1}
          value={lead}
          range={LEAD_RANGE}
          onChange={(seconds) => listening.setState({ lead: seconds })}
        />
      </PopoverPanel>
    </Popover>
  );
}

import { AlignHorizontalJustifyStart } from 'lucide-react';
import type { ReactNode } from 'react';
import { useStore } from 'zustand';
import { useAct } from '../ui/acts.ts';
import { Button } from '../ui/button.tsx';
import { KEYS, withKey } from './keys.ts';
import { looks } from './looks.ts';

/** Both lanes on one axis of time, or each on its own. */
export function OneAxis() {
  const isAligned = useStore(looks, (state) => state.isAligned);
  const toggle = () => looks.setState({ isAligned: !isAligned });
  useAct(KEYS.align, toggle);
  return (
    <Button
      kind="quiet"
      className="shrink-0 text-xs"
      aria-pressed={isAligned}
      title={withKey('The result below its cut, on the time of the source', 'align')}
      onClick={toggle}
    >
      <AlignHorizontalJustifyStart className="size-3.5" aria-hidden /> {isAligned ? 'time of the source' : 'own time'}
    </Button>
  );
}

interface Props {
  readonly title: string;
  readonly tone: string;
  readonly facts: readonly (string | null)[];
  readonly children?: ReactNode;
}

/** What a lane shows, on one line; what finds no room on it is said to those who point at it. */
export function LaneTitle({ title, tone, facts, children }: Props) {
  const known = facts.filter((fact) => fact !== null);
  return (
    <div className="mt-1.5 mb-0.5 flex h-6 items-center gap-x-3 text-sm">
      <div className="min-w-0 flex-1 truncate" title={known.join(', ')}>
        <h3 className={`label inline ${tone}`}>{title}</h3>
        {known.map((fact) => (
          <span key={fact} className="figure ml-3">
            {fact}
          </span>
        ))}
      </div>
      {children}
    </div>
  );
}

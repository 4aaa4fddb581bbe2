import { Button } from '../ui/button.tsx';
import { PANES, type Pane } from './pane.ts';

interface Props {
  readonly shown: Pane;
  readonly onShow: (pane: Pane) => void;
  /** Clips of the job, said beside their name. */
  readonly clips: number;
}

/** At the lower edge of a small window: which part of the bench is shown. */
export function PaneBar({ shown, onShow, clips }: Props) {
  return (
    <nav aria-label="Parts of the bench" className="grid grid-cols-3 border-t border-ink lg:hidden">
      {PANES.map(({ id, title }) => (
        <Button
          key={id}
          kind="bare"
          aria-current={id === shown ? 'true' : undefined}
          onClick={() => onShow(id)}
          className={`min-h-11 border-t-2 ${id === shown ? 'border-pine font-semibold' : 'border-transparent text-graphite'}`}
        >
          {title} {id === 'clips' && <span className="figure ml-1.5 text-sm">{clips}</span>}
        </Button>
      ))}
    </nav>
  );
}

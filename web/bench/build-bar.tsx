import { formatCount, type WayForMany } from '@tambur/core';
import { Link, useNavigate } from 'react-router';
import { cancelDelivery, useDeliveries, useStartDelivery } from '../api/queries.ts';
import type { SettledSet } from '../job/set.ts';
import { useAct, useActs } from '../ui/acts.ts';
import { Button } from '../ui/button.tsx';
import { notifyFailure } from '../ui/notify.tsx';
import { Progress } from '../ui/states.tsx';
import { KEYS, withKey } from './keys.ts';

interface Props {
  readonly jobId: string;
  readonly set: SettledSet;
  /** For a set that takes too much. */
  readonly ways: readonly WayForMany[];
  /** For the clips that do not meet the sheet. */
  readonly waysForTroubled: readonly WayForMany[];
  readonly onWay: (way: WayForMany) => void;
  readonly saveNow: () => Promise<boolean>;
}

/** How large the set is, and the way to its files. */
export function BuildBar({ jobId, set, ways, waysForTroubled, onWay, saveNow }: Props) {
  const deliveries = useDeliveries(jobId);
  const start = useStartDelivery(jobId);
  const navigate = useNavigate();
  const newest = deliveries.data?.[0];
  const building = newest?.state === 'building';
  const clipCount = set.settled.size;
  const troubles = set.troubles.size;

  /** Builds, and goes to where the delivery is looked at, or tried out. */
  const build = async (view: 'deliveries' | 'try') => {
    if (building || start.isPending || clipCount === 0) return;
    if (!(await saveNow())) {
      notifyFailure('The last changes could not be saved, so nothing was built.');
      return;
    }
    start.mutate(undefined, {
      onSuccess: (delivery) => navigate(`/${view}/${delivery.id}`),
      onError: notifyFailure,
    });
  };
  useAct(KEYS.build, () => void build('deliveries'));
  useActs([{ label: 'Build the set and try it out on its device', go: () => void build('try') }]);

  return (
    <div className="border-t border-hairline px-3 py-3">
      {set.mostBytes !== null && <SetSize bytes={set.soundBytes} most={set.mostBytes} ways={ways} onWay={onWay} />}
      {building ? (
        <Progress value={newest.progress} label="Building the set">
          <div className="mt-2 flex items-center justify-between text-sm">
            <span>
              building <span className="figure">{Math.round(newest.progress * 100)} %</span>
            </span>
            <Button onClick={() => void cancelDelivery(newest.id)}>Cancel</Button>
          </div>
        </Progress>
      ) : (
        <div className="flex flex-wrap gap-2">
          <Button
            kind="main"
            className="flex-1"
            title={withKey('Build set', 'build')}
            disabled={clipCount === 0 || start.isPending}
            onClick={() => void build('deliveries')}
          >
            Build set
          </Button>
          <Button
            title="Build the set, and put it into a stand-in of its device"
            disabled={clipCount === 0 || start.isPending}
            onClick={() => void build('try')}
          >
            Try it out
          </Button>
        </div>
      )}
      {troubles > 0 && (
        <div className="mt-2 text-sm">
          <p className="text-brick">
            {troubles === 1 ? '1 clip does' : `${troubles} clips do`} not meet the sheet and will be marked.
          </p>
          <Ways ways={waysForTroubled} onWay={onWay} />
        </div>
      )}
      {newest?.state === 'done' && (
        <p className="mt-2 text-sm">
          <Link to={`/deliveries/${newest.id}`} className="underline underline-offset-2">
            Last delivery
          </Link>
        </p>
      )}
    </div>
  );
}

interface SetSizeProps extends Pick<Props, 'ways' | 'onWay'> {
  readonly bytes: number;
  readonly most: number;
}

function SetSize({ bytes, most, ways, onWay }: SetSizeProps) {
  const over = bytes > most;
  return (
    <div className="mb-3">
      <div className="flex items-baseline justify-between text-sm">
        <span className="label">Set</span>
        <span className={`figure ${over ? 'font-semibold text-brick' : ''}`}>
          {formatCount(bytes)} / {formatCount(most)} bytes
        </span>
      </div>
      <div className="mt-1 h-1.5 bg-hairline" aria-hidden>
        <div
          className={`h-full ${over ? 'bg-brick' : 'bg-pine'}`}
          style={{ width: `${Math.min(100, (100 * bytes) / most)}%` }}
        />
      </div>
      {over && (
        <div role="alert" className="mt-1 text-sm">
          <p className="text-brick">{formatCount(bytes - most)} bytes too many.</p>
          <Ways ways={ways} onWay={onWay} />
        </div>
      )}
    </div>
  );
}

const Ways = ({ ways, onWay }: { ways: readonly WayForMany[]; onWay: (way: WayForMany) => void }) =>
  ways.length > 0 && (
    <ul className="mt-1 grid gap-1">
      {ways.map((way) => (
        <li key={way.label}>
          <Button kind="way" onClick={() => onWay(way)} className="w-full">
            {way.label}
          </Button>
        </li>
      ))}
    </ul>
  );

import { type Chain, type StationId, worstOf } from '@tambur/core';
import { Button } from '../ui/button.tsx';
import { VerdictMark } from '../ui/verdict.tsx';
import type { PreviewState } from './use-preview.ts';

interface Props {
  readonly chain: Chain | null;
  readonly preview: PreviewState;
  readonly onWay: (station: StationId, wish: unknown) => void;
  readonly onSheet: () => void;
}

/** Beside the result: whether the clip meets its sheet, and where it does not, what is wrong and the one next step. */
export function ClipVerdict({ chain, preview: { made, refused }, onWay, onSheet }: Props) {
  const obstacle = chain?.obstacles[0];
  const way = obstacle?.ways[0];
  const worst = made ? worstOf(made.findings) : null;
  const verdict = obstacle || refused ? 'breaks' : worst;
  const worstFinding = made?.findings.find((finding) => finding.verdict === worst);
  const troubles = made?.findings.filter((finding) => finding.verdict === worst).length ?? 0;
  const isMet = verdict === 'meets';
  const words = obstacle
    ? obstacle.text
    : isMet || !worstFinding
      ? 'the sheet'
      : `${worstFinding.title}: wanted ${worstFinding.wanted}, found ${worstFinding.found}`;
  return (
    <div className="mt-1 flex min-h-7 items-center gap-x-2 text-sm whitespace-nowrap" data-testid="clip-verdict">
      {verdict && (
        <>
          <VerdictMark verdict={verdict} />{' '}
          {!refused && (
            <span className="min-w-0 truncate" title={words}>
              {words}
            </span>
          )}
          {way && (
            <Button kind="way" className="shrink-0" onClick={() => onWay(way.station as StationId, way.wish)}>
              {way.label}
            </Button>
          )}
          {!isMet && !obstacle && worstFinding?.mend && (
            <span className="min-w-0 shrink-0 truncate text-graphite">{worstFinding.mend}</span>
          )}
          {!isMet && (
            <Button kind="quiet" className="shrink-0 lg:hidden" onClick={onSheet}>
              {troubles > 1 ? `and ${troubles - 1} more` : 'Sheet'}
            </Button>
          )}
        </>
      )}
    </div>
  );
}

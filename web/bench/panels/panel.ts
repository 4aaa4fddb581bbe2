import type { Chain, ClipSettings, RankedClip, Target } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import type { JobStore } from '../../job/job-store.ts';
import type { Saving } from '../../job/use-job-sync.ts';
import type { Preview } from '../use-preview.ts';

/** What every panel is given. */
export interface PanelProps {
  readonly clip: RankedClip;
  readonly chain: Chain;
  readonly settings: ClipSettings;
  readonly source: SourceView;
  readonly target: Target;
  readonly preview: Preview | null;
  /** The whole job, for what concerns all clips. */
  readonly store: JobStore;
  readonly saving: Saving;
  readonly onChange: (change: Partial<ClipSettings>) => void;
}

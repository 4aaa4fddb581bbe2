/** Parts of the bench, of which a small window shows one at a time. */
export const PANES = [
  { id: 'clips', title: 'Clips' },
  { id: 'bench', title: 'Bench' },
  { id: 'sheet', title: 'Sheet' },
] as const;
export type Pane = (typeof PANES)[number]['id'];

/** Hides a part in a small window while another is shown. */
export const shownOnly = (pane: Pane, shown: Pane): string => (pane === shown ? '' : 'max-lg:hidden');

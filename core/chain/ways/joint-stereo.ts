import type { KindOfWay } from './way.ts';

/** Two channels coded together need fewer bits. */
export const jointStereo: KindOfWay = {
  title: 'Code both channels together',
  forClip: ({ demands, chain }) =>
    chain.stations.wrap.plan.compressed?.stereoMode === 'stereo' && demands.stereoMode?.value !== 'stereo'
      ? [{ station: 'wrap', wish: { stereoMode: 'joint' }, label: 'Joint stereo instead of plain' }]
      : [],
};

import { limitCause } from '../limits.ts';

export const tooLong = limitCause('length', {
  id: 'too-long',
  title: 'It is longer than the device plays',
  tellApart: 'Shorter sounds play whole.',
  mend: 'cut it shorter',
});

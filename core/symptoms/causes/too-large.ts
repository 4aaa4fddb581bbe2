import { limitCause } from '../limits.ts';

export const tooLarge = limitCause('size', {
  id: 'too-large',
  title: 'It is larger than the device takes',
  tellApart: 'Shorter sounds play whole.',
  mend: 'cut it shorter, or lower its rate',
});

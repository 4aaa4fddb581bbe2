export { type Heard, heardFrom, type Judged, listen, MOST_SECONDS } from './listen.ts';

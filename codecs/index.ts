export { type OpenOptions, openSource, openSourceStream } from './open-source.ts';

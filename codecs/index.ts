export { library } from './encoders/index.ts';
export { type OpenOptions, openSource, openSourceStream } from './open-source.ts';

export { library } from './encoders/index.ts';
export { libraryFormats } from './formats/index.ts';
export { type OpenOptions, openSource, openSourceStream } from './open-source.ts';

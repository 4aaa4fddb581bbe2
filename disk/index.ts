export * from './disk.ts';
export { filesBelow } from './folder.ts';
export { Growth } from './growth.ts';
export { sha256Of, sha256OfFile } from './hash.ts';
export { type JobZip, readJobZip } from './job-zip.ts';
export { synthesiser } from './synthesiser.ts';
export { ZipFile } from './zip-file.ts';

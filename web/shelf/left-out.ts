import { isHidden } from '@tambur/core';

/** True for files that systems put into folders and nobody means: they do not come in with a folder. */
export const isLeftOut = (name: string): boolean => isHidden(name) || /^(thumbs\.db|desktop\.ini)$/i.test(name);

/** 20 log10 of a linear level; -Infinity for 0. */
export const toDb = (linear: number): number => 20 * Math.log10(linear);
/** Linear level of a figure in dB. */
export const fromDb = (db: number): number => 10 ** (db / 20);

/** The value itself, or the limit that it goes beyond. */
export const clamp = (value: number, least: number, most: number): number => Math.min(most, Math.max(least, value));

/** Counts what may change the bytes of a finished file: deliveries record it. The same as in package.json. */
export const CORE_VERSION = '0.5.0';

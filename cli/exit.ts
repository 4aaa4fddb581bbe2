/** Exit codes: all is met; something breaks the sheet; the input cannot be used; a mistake of the program itself. */
export const EXIT = { met: 0, broken: 1, unusable: 2, failed: 3 } as const;

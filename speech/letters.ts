/** The synthesiser knows plain Latin letters only: accents go, what is left over becomes a space. */
export const plainLetters = (text: string): string =>
  text
    .replace(/ß/g, 'ss')
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .replace(/[\u2018\u2019]/g, "'")
    .replace(/[^\x20-\x7e]+/g, ' ');

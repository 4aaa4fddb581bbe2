/** What a library asks Node for where it runs there; the page is built with this in its place. */
export function createRequire(): never {
  throw new Error('There is no Node in a browser.');
}

/** A wish in the making: what is undefined is taken back. */
export type Change<Wish> = { [K in keyof Wish]?: Wish[K] | undefined };

/** A station's wish with a change: without what was taken back or is false. Nothing left is automatic. */
export function wishWith<Wish extends object>(wish: 'automatic' | Wish, change: Change<Wish>): 'automatic' | Wish {
  const entries = Object.entries({ ...(wish === 'automatic' ? {} : wish), ...change });
  const left = entries.filter(([, value]) => value !== undefined && value !== false);
  return left.length > 0 ? (Object.fromEntries(left) as Wish) : 'automatic';
}

/** Work under way by key: who asks for the same at the same time waits for it, and goes on alone where it fails or is cancelled. */
export class Once<T> {
  private readonly underWay = new Map<string, Promise<T>>();

  run(key: string, work: () => Promise<T>): Promise<T> {
    const other = this.underWay.get(key);
    if (other) return other.catch(() => this.run(key, work));
    const begun = work().finally(() => this.underWay.delete(key));
    this.underWay.set(key, begun);
    return begun;
  }
}

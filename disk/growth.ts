/** Places of what is shared. */
const SIZE = 0;
const WRITTEN = 1;

/**
 * How far a file has been written, for whoever reads it meanwhile in another thread: the size that it will have, and the
 * bytes that are there. `shared` is what is handed to the other thread.
 */
export class Growth {
  readonly shared: SharedArrayBuffer;
  private readonly counts: BigInt64Array;

  constructor(shared = new SharedArrayBuffer(2 * BigInt64Array.BYTES_PER_ELEMENT)) {
    this.shared = shared;
    this.counts = new BigInt64Array(shared);
  }

  expect(size: number): void {
    this.tell(SIZE, size);
  }

  written(bytes: number): void {
    this.tell(WRITTEN, bytes);
  }

  /** All bytes are there, however many were expected. */
  end(size: number): void {
    this.expect(size);
    this.written(Number.MAX_SAFE_INTEGER);
  }

  /** Waits until the size is known. */
  size(): number {
    return this.reached(SIZE, 1n);
  }

  /** Waits until so many bytes are there. */
  reaches(bytes: number): void {
    this.reached(WRITTEN, BigInt(bytes));
  }

  private tell(place: number, value: number): void {
    Atomics.store(this.counts, place, BigInt(value));
    Atomics.notify(this.counts, place);
  }

  private reached(place: number, least: bigint): number {
    for (;;) {
      const now = Atomics.load(this.counts, place);
      if (now >= least) return Number(now);
      Atomics.wait(this.counts, place, now);
    }
  }
}

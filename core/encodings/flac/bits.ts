/** Writes numbers of any width into bytes, the most significant bit first. */
export class BitWriter {
  private bytes: Uint8Array;
  private at = 0;
  /** Bits that do not fill a byte yet, at the low end. */
  private pending = 0;
  private count = 0;

  /** @param capacity bytes that are made room for; more grow by themselves */
  constructor(capacity: number) {
    this.bytes = new Uint8Array(capacity);
  }

  /** The lowest `bits` bits of `value`, 0 to 32 of them. */
  put(value: number, bits: number): void {
    if (bits > 16) {
      this.putFew((value >>> 16) & (0xffff >>> (32 - bits)), bits - 16);
      this.putFew(value & 0xffff, 16);
    } else this.putFew(value & (0xffff >>> (16 - bits)), bits);
  }

  /** So many zeros, then a one. */
  putUnary(zeros: number): void {
    let left = zeros;
    for (; left >= 16; left -= 16) this.putFew(0, 16);
    this.putFew(1, left + 1);
  }

  /** Zeros up to the next whole byte. */
  align(): void {
    if (this.count > 0) this.putFew(0, 8 - this.count);
  }

  /** What was written, of whole bytes; valid until more is. */
  written(): Uint8Array {
    return this.bytes.subarray(0, this.at);
  }

  private putFew(value: number, bits: number): void {
    this.pending = (this.pending << bits) | value;
    this.count += bits;
    if (this.at + 4 > this.bytes.length) this.grow();
    while (this.count >= 8) {
      this.count -= 8;
      this.bytes[this.at++] = this.pending >>> this.count;
    }
  }

  private grow(): void {
    const larger = new Uint8Array(2 * this.bytes.length + 16);
    larger.set(this.bytes);
    this.bytes = larger;
  }
}

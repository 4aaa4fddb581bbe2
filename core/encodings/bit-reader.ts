/** Reads numbers of any width from bytes, the most significant bit first. Reading past the last bit throws a RangeError. */
export class BitReader {
  private readonly bytes: Uint8Array;
  private readonly end: number;
  private at: number;

  /** @param from place of the first bit, in bytes */
  constructor(bytes: Uint8Array, from: number) {
    // Room for a look beyond the end without asking each time where it is.
    this.bytes = new Uint8Array(bytes.length + 8);
    this.bytes.set(bytes);
    this.end = 8 * bytes.length;
    this.at = 8 * from;
  }

  /** The next 32 bits, without taking them. */
  private peek(): number {
    const { bytes, at } = this;
    const i = at >>> 3;
    const shift = at & 7;
    const word = (bytes[i] << 24) | (bytes[i + 1] << 16) | (bytes[i + 2] << 8) | bytes[i + 3];
    return shift === 0 ? word : (word << shift) | (bytes[i + 4] >>> (8 - shift));
  }

  /** 0 to 32 bits. */
  unsigned(bits: number): number {
    if (bits === 0) return 0;
    const value = this.peek() >>> (32 - bits);
    this.at += bits;
    if (this.at > this.end) throw new RangeError('the frame ends too early');
    return value;
  }

  /** 0 to 33 bits, in two's complement. */
  signed(bits: number): number {
    if (bits === 0) return 0;
    if (bits <= 32) {
      const value = this.peek() >> (32 - bits);
      this.at += bits;
      if (this.at > this.end) throw new RangeError('the frame ends too early');
      return value;
    }
    const isNegative = this.unsigned(1) === 1;
    return this.unsigned(32) - (isNegative ? 2 ** 32 : 0);
  }

  /** Rice codes with a parameter, unfolded to 0, -1, 1, -2, 2 (RFC 9639, 9.2.7.2). */
  rice(parameter: number, out: Float64Array, from: number, to: number): void {
    const { bytes, end } = this;
    const scale = 2 ** parameter;
    let { at } = this;
    for (let i = from; i < to; i++) {
      let quotient = 0;
      let k = at >>> 3;
      // Of these 32 bits the first 25 are sound's own, wherever in a byte they begin.
      let word = ((bytes[k] << 24) | (bytes[k + 1] << 16) | (bytes[k + 2] << 8) | bytes[k + 3]) << (at & 7);
      while (word >>> 7 === 0) {
        quotient += 25;
        at += 25;
        if (at >= end) throw new RangeError('the frame ends too early');
        k = at >>> 3;
        word = ((bytes[k] << 24) | (bytes[k + 1] << 16) | (bytes[k + 2] << 8) | bytes[k + 3]) << (at & 7);
      }
      const zeros = Math.clz32(word);
      quotient += zeros;
      at += zeros + 1;
      let rest = 0;
      if (zeros + parameter < 25) rest = (word << (zeros + 1)) >>> (32 - parameter);
      else {
        k = at >>> 3;
        const shift = at & 7;
        const high = ((bytes[k] << 24) | (bytes[k + 1] << 16) | (bytes[k + 2] << 8) | bytes[k + 3]) << shift;
        rest = (high | (bytes[k + 4] >>> (8 - shift))) >>> (32 - parameter);
      }
      at += parameter;
      const folded = quotient * scale + (parameter === 0 ? 0 : rest);
      out[i] = (folded >>> 1) ^ -(folded & 1);
    }
    if (at > end) throw new RangeError('the frame ends too early');
    this.at = at;
  }

  /** Zeros in front of the next one, which is taken too. */
  unary(): number {
    let zeros = 0;
    for (;;) {
      const word = this.peek();
      if (word !== 0) {
        const more = Math.clz32(word);
        this.at += more + 1;
        if (this.at > this.end) throw new RangeError('the frame ends too early');
        return zeros + more;
      }
      zeros += 32;
      this.at += 32;
      if (this.at > this.end) throw new RangeError('the frame ends too early');
    }
  }

  /** Ones in front of the next zero, which is taken too; of `most` ones no more is taken. */
  ones(most: number): number {
    const count = Math.min(most, Math.clz32(~this.peek()));
    this.at += count < most ? count + 1 : count;
    if (this.at > this.end) throw new RangeError('the frame ends too early');
    return count;
  }

  /** Another reader of the same bytes, at the same place. */
  fork(): BitReader {
    const reader = new BitReader(this.bytes.subarray(0, this.end / 8), 0);
    reader.at = this.at;
    return reader;
  }

  /** Passes over bits up to the next whole byte. */
  align(): void {
    this.at = 8 * Math.ceil(this.at / 8);
  }

  /** Passes over so many bits. */
  skip(bits: number): void {
    this.at += bits;
    if (this.at > this.end) throw new RangeError('the frame ends too early');
  }
}

/**
 * Arrays that are used again and again. New memory for every block costs more than what is done with it: the system hands
 * it out page by page, and clears each. What is given is valid until the same place is asked for again, and not cleared.
 */
export class Room {
  private readonly arrays: Float32Array[] = [];
  private spare = new Uint8Array(0);

  samples(place: number, length: number): Float32Array {
    if ((this.arrays[place]?.length ?? -1) < length) this.arrays[place] = new Float32Array(length);
    return this.arrays[place].subarray(0, length);
  }

  bytes(length: number): Uint8Array {
    if (this.spare.length < length) this.spare = new Uint8Array(length);
    return this.spare.subarray(0, length);
  }
}

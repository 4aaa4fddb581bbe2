import { clamp } from '../numbers/index.ts';

/** The rule of one kind of 4-bit ADPCM in which a code moves along a table of step sizes. */
export interface StepRule {
  /** Of its table, in source code. */
  readonly name: string;
  readonly steps: Int32Array;
  /** Lowest and highest sample. */
  readonly least: number;
  readonly most: number;
}

/** By how much a code moves the step's index; the sign bit does not count (IMA and OKI alike). */
const MOVES = Int32Array.of(-1, -1, -1, -1, 2, 4, 6, 8);

/** Decodes and encodes one channel, code by code; what has gone by decides what a code means. */
export class StepCoder {
  private readonly rule: StepRule;
  /** The last sample, as a decoder sees it, and the index of the coming step. */
  sample = 0;
  index = 0;

  constructor(rule: StepRule) {
    this.rule = rule;
  }

  start(sample: number, index: number): void {
    this.sample = sample;
    this.index = clamp(index, 0, this.rule.steps.length - 1);
  }

  /** Decodes a code, and gives how far the next level is from its sample: a quarter of the step; 0 if it is cut to the range. */
  decodeSpacing(code: number): number {
    const { steps, least, most } = this.rule;
    const quarter = steps[this.index] / 4;
    const sample = this.decode(code);
    return sample === least || sample === most ? 0 : quarter;
  }

  /** The sample that a code of four bits stands for: sign, then the step, half of it and a quarter, over an eighth. */
  decode(code: number): number {
    const { steps, least, most } = this.rule;
    const step = steps[this.index];
    let difference = step >> 3;
    if (code & 4) difference += step;
    if (code & 2) difference += step >> 1;
    if (code & 1) difference += step >> 2;
    this.sample = clamp(code & 8 ? this.sample - difference : this.sample + difference, least, most);
    this.index = clamp(this.index + MOVES[code & 7], 0, steps.length - 1);
    return this.sample;
  }

  /** The code that comes nearest below; keeps what a decoder will make of it. */
  encode(sample: number): number {
    const step = this.rule.steps[this.index];
    let rest = sample - this.sample;
    let code = 0;
    if (rest < 0) {
      code = 8;
      rest = -rest;
    }
    if (rest >= step) {
      code |= 4;
      rest -= step;
    }
    if (rest >= step >> 1) {
      code |= 2;
      rest -= step >> 1;
    }
    if (rest >= step >> 2) code |= 1;
    this.decode(code);
    return code;
  }
}

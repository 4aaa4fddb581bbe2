// AssemblyScript. Compiled by `npm run kernel` into kernel.wasm.ts; polyphaseTwin in polyphase.ts does the same sums in
// the same order, so that both give the same bits.

/**
 * Polyphase convolution. `x`, `h` and `y` are byte offsets of float32 arrays: input, `phases` rows of `taps` (a multiple
 * of 16) coefficients, output. Each output advances the input by `step / phases` frames, starting at `phase`.
 */
export function polyphase(x: usize, h: usize, y: usize, count: i32, taps: i32, phase: i32, phases: i32, step: i32): void {
  const whole = step / phases;
  const part = step % phases;
  const row = <usize>taps << 2;
  for (let n = 0; n < count; n++) {
    let xp = x;
    let hp = h + <usize>phase * row;
    const end = hp + row;
    // Four sums side by side: an addition takes four cycles, and none waits for the one before.
    let a = f32x4.splat(0);
    let b = f32x4.splat(0);
    let c = f32x4.splat(0);
    let d = f32x4.splat(0);
    while (hp < end) {
      a = f32x4.add(a, f32x4.mul(v128.load(xp), v128.load(hp)));
      b = f32x4.add(b, f32x4.mul(v128.load(xp, 16), v128.load(hp, 16)));
      c = f32x4.add(c, f32x4.mul(v128.load(xp, 32), v128.load(hp, 32)));
      d = f32x4.add(d, f32x4.mul(v128.load(xp, 48), v128.load(hp, 48)));
      xp += 64;
      hp += 64;
    }
    const sum = f32x4.add(f32x4.add(a, b), f32x4.add(c, d));
    store<f32>(
      y + (<usize>n << 2),
      f32x4.extract_lane(sum, 0) + f32x4.extract_lane(sum, 1) + (f32x4.extract_lane(sum, 2) + f32x4.extract_lane(sum, 3)),
    );
    x += <usize>whole << 2;
    phase += part;
    if (phase >= phases) {
      phase -= phases;
      x += 4;
    }
  }
}

/**
 * Polyphase convolution between rows: the filter has `rows` + 1 rows, the last being the first moved by one frame. Each
 * output stands at `phase` / `phases` of an input frame; the two rows around that place are weighed against each other.
 * Phases are whole numbers below 2^40, kept in float64, where they are exact.
 */
export function interpolated(
  x: usize,
  h: usize,
  y: usize,
  count: i32,
  taps: i32,
  phase: f64,
  phases: f64,
  step: f64,
  rows: i32,
): void {
  const row = <usize>taps << 2;
  for (let n = 0; n < count; n++) {
    const place = (phase * <f64>rows) / phases;
    const index = Math.floor(place);
    const part = f32x4.splat(<f32>(place - index));
    let xp = x;
    let hp = h + <usize>index * row;
    const end = hp + row;
    let a = f32x4.splat(0);
    let b = f32x4.splat(0);
    let c = f32x4.splat(0);
    let d = f32x4.splat(0);
    let e = f32x4.splat(0);
    let f = f32x4.splat(0);
    let g = f32x4.splat(0);
    let k = f32x4.splat(0);
    while (hp < end) {
      const x0 = v128.load(xp);
      const x1 = v128.load(xp, 16);
      const x2 = v128.load(xp, 32);
      const x3 = v128.load(xp, 48);
      const next = hp + row;
      a = f32x4.add(a, f32x4.mul(x0, v128.load(hp)));
      b = f32x4.add(b, f32x4.mul(x1, v128.load(hp, 16)));
      c = f32x4.add(c, f32x4.mul(x2, v128.load(hp, 32)));
      d = f32x4.add(d, f32x4.mul(x3, v128.load(hp, 48)));
      e = f32x4.add(e, f32x4.mul(x0, v128.load(next)));
      f = f32x4.add(f, f32x4.mul(x1, v128.load(next, 16)));
      g = f32x4.add(g, f32x4.mul(x2, v128.load(next, 32)));
      k = f32x4.add(k, f32x4.mul(x3, v128.load(next, 48)));
      xp += 64;
      hp += 64;
    }
    const before = f32x4.add(f32x4.add(a, b), f32x4.add(c, d));
    const after = f32x4.add(f32x4.add(e, f), f32x4.add(g, k));
    const sum = f32x4.add(before, f32x4.mul(part, f32x4.sub(after, before)));
    store<f32>(
      y + (<usize>n << 2),
      f32x4.extract_lane(sum, 0) + f32x4.extract_lane(sum, 1) + (f32x4.extract_lane(sum, 2) + f32x4.extract_lane(sum, 3)),
    );
    phase += step;
    const whole = Math.floor(phase / phases);
    phase -= whole * phases;
    x += <usize>whole << 2;
  }
}

/**
 * Highest magnitude after fourfold interpolation, for four samples in the four lanes. `x` is the byte offset of `count` + 11
 * float32 samples (`count` at least 4), `h` of 24 vectors, each of four equal numbers: for each of six pairs of taps
 * (k, 11 - k) the sum and the difference of a phase's coefficients, for two phases. The other two phases are mirrored, so
 * that a phase and its mirror are half of A + B and of A - B, and the larger magnitude of both half of |A| + |B|.
 */
export function interpolatedPeak(x: usize, h: usize, count: i32): f32 {
  let peak = f32x4.splat(0);
  for (let n = 0; n < count; n += 4) {
    // The last four overlap those before them.
    const p = x + (<usize>min(n, count - 4) << 2);
    let a = f32x4.splat(0);
    let b = f32x4.splat(0);
    let c = f32x4.splat(0);
    let d = f32x4.splat(0);
    const l0 = v128.load(p, 0);
    const r0 = v128.load(p, 44);
    const s0 = f32x4.add(l0, r0);
    const d0 = f32x4.sub(l0, r0);
    a = f32x4.add(a, f32x4.mul(s0, v128.load(h, 0)));
    b = f32x4.add(b, f32x4.mul(d0, v128.load(h, 16)));
    c = f32x4.add(c, f32x4.mul(s0, v128.load(h, 32)));
    d = f32x4.add(d, f32x4.mul(d0, v128.load(h, 48)));
    const l1 = v128.load(p, 4);
    const r1 = v128.load(p, 40);
    const s1 = f32x4.add(l1, r1);
    const d1 = f32x4.sub(l1, r1);
    a = f32x4.add(a, f32x4.mul(s1, v128.load(h, 64)));
    b = f32x4.add(b, f32x4.mul(d1, v128.load(h, 80)));
    c = f32x4.add(c, f32x4.mul(s1, v128.load(h, 96)));
    d = f32x4.add(d, f32x4.mul(d1, v128.load(h, 112)));
    const l2 = v128.load(p, 8);
    const r2 = v128.load(p, 36);
    const s2 = f32x4.add(l2, r2);
    const d2 = f32x4.sub(l2, r2);
    a = f32x4.add(a, f32x4.mul(s2, v128.load(h, 128)));
    b = f32x4.add(b, f32x4.mul(d2, v128.load(h, 144)));
    c = f32x4.add(c, f32x4.mul(s2, v128.load(h, 160)));
    d = f32x4.add(d, f32x4.mul(d2, v128.load(h, 176)));
    const l3 = v128.load(p, 12);
    const r3 = v128.load(p, 32);
    const s3 = f32x4.add(l3, r3);
    const d3 = f32x4.sub(l3, r3);
    a = f32x4.add(a, f32x4.mul(s3, v128.load(h, 192)));
    b = f32x4.add(b, f32x4.mul(d3, v128.load(h, 208)));
    c = f32x4.add(c, f32x4.mul(s3, v128.load(h, 224)));
    d = f32x4.add(d, f32x4.mul(d3, v128.load(h, 240)));
    const l4 = v128.load(p, 16);
    const r4 = v128.load(p, 28);
    const s4 = f32x4.add(l4, r4);
    const d4 = f32x4.sub(l4, r4);
    a = f32x4.add(a, f32x4.mul(s4, v128.load(h, 256)));
    b = f32x4.add(b, f32x4.mul(d4, v128.load(h, 272)));
    c = f32x4.add(c, f32x4.mul(s4, v128.load(h, 288)));
    d = f32x4.add(d, f32x4.mul(d4, v128.load(h, 304)));
    const l5 = v128.load(p, 20);
    const r5 = v128.load(p, 24);
    const s5 = f32x4.add(l5, r5);
    const d5 = f32x4.sub(l5, r5);
    a = f32x4.add(a, f32x4.mul(s5, v128.load(h, 320)));
    b = f32x4.add(b, f32x4.mul(d5, v128.load(h, 336)));
    c = f32x4.add(c, f32x4.mul(s5, v128.load(h, 352)));
    d = f32x4.add(d, f32x4.mul(d5, v128.load(h, 368)));
    peak = f32x4.pmax(peak, f32x4.add(f32x4.abs(a), f32x4.abs(b)));
    peak = f32x4.pmax(peak, f32x4.add(f32x4.abs(c), f32x4.abs(d)));
  }
  return <f32>0.5 * max(
    max(f32x4.extract_lane(peak, 0), f32x4.extract_lane(peak, 1)),
    max(f32x4.extract_lane(peak, 2), f32x4.extract_lane(peak, 3)),
  );
}

/**
 * Two filters of second order one after the other, on two channels in the two lanes, and the energy of what comes out.
 * `x` and `y` are byte offsets of `count` float32 samples each; `c` of b0, b1, b2, a1, a2 of the first filter and a1, a2 of
 * the second, whose numerator is 1, -2, 1; `s` of four vectors of state, followed by one for the energies.
 */
export function weightedEnergy(x: usize, y: usize, count: i32, c: usize, s: usize): void {
  const b0 = v128.load64_splat(c);
  const b1 = v128.load64_splat(c, 8);
  const b2 = v128.load64_splat(c, 16);
  const a1 = v128.load64_splat(c, 24);
  const a2 = v128.load64_splat(c, 32);
  const c1 = v128.load64_splat(c, 40);
  const c2 = v128.load64_splat(c, 48);
  const minus2 = f64x2.splat(-2);
  let u1 = v128.load(s);
  let u2 = v128.load(s, 16);
  let v1 = v128.load(s, 32);
  let v2 = v128.load(s, 48);
  let energy = f64x2.splat(0);
  for (let n = 0; n < count; n++) {
    const at = <usize>n << 2;
    const both = f64x2.replace_lane(f64x2.splat(<f64>load<f32>(x + at)), 1, <f64>load<f32>(y + at));
    const first = f64x2.add(f64x2.mul(b0, both), u1);
    u1 = f64x2.add(f64x2.sub(f64x2.mul(b1, both), f64x2.mul(a1, first)), u2);
    u2 = f64x2.sub(f64x2.mul(b2, both), f64x2.mul(a2, first));
    const second = f64x2.add(first, v1);
    v1 = f64x2.add(f64x2.sub(f64x2.mul(minus2, first), f64x2.mul(c1, second)), v2);
    v2 = f64x2.sub(first, f64x2.mul(c2, second));
    energy = f64x2.add(energy, f64x2.mul(second, second));
  }
  v128.store(s, u1);
  v128.store(s, u2, 16);
  v128.store(s, v1, 32);
  v128.store(s, v2, 48);
  v128.store(s, energy, 64);
}

/** Splits `count` frames of two float32 samples at `x` into the channels `left` and `right`, four at a time. */
export function splitFloats(x: usize, left: usize, right: usize, count: i32): void {
  for (let n = 0; n < count; n += 4) {
    const a = v128.load(x);
    const b = v128.load(x, 16);
    v128.store(left, v128.shuffle<f32>(a, b, 0, 2, 4, 6));
    v128.store(right, v128.shuffle<f32>(a, b, 1, 3, 5, 7));
    x += 32;
    left += 16;
    right += 16;
  }
}

/** The same of 16-bit whole numbers, which become -1..1. */
export function splitIntegers(x: usize, left: usize, right: usize, count: i32): void {
  const scale = f32x4.splat(1.0 / 32768);
  for (let n = 0; n < count; n += 4) {
    const both = v128.load(x);
    const l = i32x4.shr_s(i32x4.shl(both, 16), 16);
    const r = i32x4.shr_s(both, 16);
    v128.store(left, f32x4.mul(f32x4.convert_i32x4_s(l), scale));
    v128.store(right, f32x4.mul(f32x4.convert_i32x4_s(r), scale));
    x += 16;
    left += 16;
    right += 16;
  }
}

/** One channel of 16-bit whole numbers as -1..1, four at a time. */
export function integersToFloats(x: usize, y: usize, count: i32): void {
  const scale = f32x4.splat(1.0 / 32768);
  for (let n = 0; n < count; n += 4) {
    v128.store(y, f32x4.mul(f32x4.convert_i32x4_s(v128.load16x4_s(x)), scale));
    x += 8;
    y += 16;
  }
}

/** z = a x + b y, four at a time. */
export function weigh(x: usize, y: usize, z: usize, count: i32, a: f32, b: f32): void {
  const wa = f32x4.splat(a);
  const wb = f32x4.splat(b);
  for (let n = 0; n < count; n += 4) {
    v128.store(z, f32x4.add(f32x4.mul(wa, v128.load(x)), f32x4.mul(wb, v128.load(y))));
    x += 16;
    y += 16;
    z += 16;
  }
}

/**
 * Looks at `count` float32 samples of two channels, four at a time, zeros filling the last four: of each channel the
 * lowest and the highest, the sum and the sum of squares, and the sum of products of both. Writes four float32 vectors
 * (lowest, highest of each) and five float64 vectors (sums, squares, products) at `out`.
 */
export function levels(x: usize, y: usize, count: i32, out: usize): void {
  let lowX = f32x4.splat(0);
  let highX = f32x4.splat(0);
  let lowY = f32x4.splat(0);
  let highY = f32x4.splat(0);
  let sumX = f64x2.splat(0);
  let sumY = f64x2.splat(0);
  let squareX = f64x2.splat(0);
  let squareY = f64x2.splat(0);
  let product = f64x2.splat(0);
  for (let n = 0; n < count; n += 4) {
    const a = v128.load(x);
    const b = v128.load(y);
    lowX = f32x4.pmin(lowX, a);
    highX = f32x4.pmax(highX, a);
    lowY = f32x4.pmin(lowY, b);
    highY = f32x4.pmax(highY, b);
    const a0 = f64x2.promote_low_f32x4(a);
    const a1 = f64x2.promote_low_f32x4(v128.shuffle<f32>(a, a, 2, 3, 2, 3));
    const b0 = f64x2.promote_low_f32x4(b);
    const b1 = f64x2.promote_low_f32x4(v128.shuffle<f32>(b, b, 2, 3, 2, 3));
    sumX = f64x2.add(sumX, f64x2.add(a0, a1));
    sumY = f64x2.add(sumY, f64x2.add(b0, b1));
    squareX = f64x2.add(squareX, f64x2.add(f64x2.mul(a0, a0), f64x2.mul(a1, a1)));
    squareY = f64x2.add(squareY, f64x2.add(f64x2.mul(b0, b0), f64x2.mul(b1, b1)));
    product = f64x2.add(product, f64x2.add(f64x2.mul(a0, b0), f64x2.mul(a1, b1)));
    x += 16;
    y += 16;
  }
  v128.store(out, lowX);
  v128.store(out, highX, 16);
  v128.store(out, lowY, 32);
  v128.store(out, highY, 48);
  v128.store(out, sumX, 64);
  v128.store(out, sumY, 80);
  v128.store(out, squareX, 96);
  v128.store(out, squareY, 112);
  v128.store(out, product, 128);
}

/** Highest magnitude of `count` float32 samples, four at a time, zeros filling the last four. */
export function highest(x: usize, count: i32): f32 {
  let most = f32x4.splat(0);
  for (let n = 0; n < count; n += 4) {
    most = f32x4.pmax(most, f32x4.abs(v128.load(x)));
    x += 16;
  }
  return max(
    max(f32x4.extract_lane(most, 0), f32x4.extract_lane(most, 1)),
    max(f32x4.extract_lane(most, 2), f32x4.extract_lane(most, 3)),
  );
}

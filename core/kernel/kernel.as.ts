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

/** The highest of four in all lanes. */
// @ts-ignore: decorator
@inline
function highestOfLanes(v: v128): v128 {
  const w = f32x4.pmax(v, v128.shuffle<f32>(v, v, 2, 3, 0, 1));
  return f32x4.pmax(w, v128.shuffle<f32>(w, w, 1, 0, 3, 2));
}

/** Samples of which it is seen together whether they can matter: roughly, and more closely. */
const CHUNK: i32 = 64;
const GROUP: i32 = 16;

/** Magnitudes of four samples. All bits but that of the sign: the quickest way. */
// @ts-ignore: decorator
@inline
function magnitudes(at: usize): v128 {
  return v128.and(i32x4.splat(0x7fffffff), v128.load(at));
}

/** Magnitudes of the second differences of four samples: how far each is from the mean of its neighbours, twice. */
// @ts-ignore: decorator
@inline
function bends(at: usize): v128 {
  const x = v128.load(at);
  const bend = f32x4.sub(f32x4.add(v128.load(at - 4), v128.load(at, 4)), f32x4.add(x, x));
  return v128.and(i32x4.splat(0x7fffffff), bend);
}

/**
 * Highest magnitude after fourfold interpolation of `count` samples (at least 4) from `x` on, four in the four lanes. `h` is
 * the byte offset of 24 vectors, each of four equal numbers: for each of six pairs of taps (k, 11 - k) the sum and the
 * difference of a phase's coefficients, for two phases. The other two phases are mirrored, so that a phase and its mirror
 * are half of A + B and of A - B, and the larger magnitude of both half of |A| + |B|.
 */
export function interpolated16(x: usize, h: usize, count: i32): f32 {
  const mask = i32x4.splat(0x7fffffff);
  let twice = f32x4.splat(0);
  const last = x + (<usize>(count - 4) << 2);
  for (;;) {
    const l0 = v128.load(x, 0);
    const r0 = v128.load(x, 44);
    const s0 = f32x4.add(l0, r0);
    const d0 = f32x4.sub(l0, r0);
    let a = f32x4.mul(s0, v128.load(h, 0));
    let b = f32x4.mul(d0, v128.load(h, 16));
    let c = f32x4.mul(s0, v128.load(h, 32));
    let f = f32x4.mul(d0, v128.load(h, 48));
    const l1 = v128.load(x, 4);
    const r1 = v128.load(x, 40);
    const s1 = f32x4.add(l1, r1);
    const d1 = f32x4.sub(l1, r1);
    a = f32x4.add(a, f32x4.mul(s1, v128.load(h, 64)));
    b = f32x4.add(b, f32x4.mul(d1, v128.load(h, 80)));
    c = f32x4.add(c, f32x4.mul(s1, v128.load(h, 96)));
    f = f32x4.add(f, f32x4.mul(d1, v128.load(h, 112)));
    const l2 = v128.load(x, 8);
    const r2 = v128.load(x, 36);
    const s2 = f32x4.add(l2, r2);
    const d2 = f32x4.sub(l2, r2);
    a = f32x4.add(a, f32x4.mul(s2, v128.load(h, 128)));
    b = f32x4.add(b, f32x4.mul(d2, v128.load(h, 144)));
    c = f32x4.add(c, f32x4.mul(s2, v128.load(h, 160)));
    f = f32x4.add(f, f32x4.mul(d2, v128.load(h, 176)));
    const l3 = v128.load(x, 12);
    const r3 = v128.load(x, 32);
    const s3 = f32x4.add(l3, r3);
    const d3 = f32x4.sub(l3, r3);
    a = f32x4.add(a, f32x4.mul(s3, v128.load(h, 192)));
    b = f32x4.add(b, f32x4.mul(d3, v128.load(h, 208)));
    c = f32x4.add(c, f32x4.mul(s3, v128.load(h, 224)));
    f = f32x4.add(f, f32x4.mul(d3, v128.load(h, 240)));
    const l4 = v128.load(x, 16);
    const r4 = v128.load(x, 28);
    const s4 = f32x4.add(l4, r4);
    const d4 = f32x4.sub(l4, r4);
    a = f32x4.add(a, f32x4.mul(s4, v128.load(h, 256)));
    b = f32x4.add(b, f32x4.mul(d4, v128.load(h, 272)));
    c = f32x4.add(c, f32x4.mul(s4, v128.load(h, 288)));
    f = f32x4.add(f, f32x4.mul(d4, v128.load(h, 304)));
    const l5 = v128.load(x, 20);
    const r5 = v128.load(x, 24);
    const s5 = f32x4.add(l5, r5);
    const d5 = f32x4.sub(l5, r5);
    a = f32x4.add(a, f32x4.mul(s5, v128.load(h, 320)));
    b = f32x4.add(b, f32x4.mul(d5, v128.load(h, 336)));
    c = f32x4.add(c, f32x4.mul(s5, v128.load(h, 352)));
    f = f32x4.add(f, f32x4.mul(d5, v128.load(h, 368)));
    twice = f32x4.pmax(twice, f32x4.add(v128.and(mask, a), v128.and(mask, b)));
    twice = f32x4.pmax(twice, f32x4.add(v128.and(mask, c), v128.and(mask, f)));
    if (x >= last) break;
    // The last four overlap those before them.
    x = min(x + 16, last);
  }
  return <f32>0.5 * f32x4.extract_lane(highestOfLanes(twice), 0);
}

/**
 * Highest magnitude of `count` + 11 float32 samples at `x` (`count` at least 16) and of what is interpolated between them, or
 * `peak` where that is higher. Nothing that is interpolated exceeds `gain` times the largest sample around it, nor `near`
 * times the larger of the two samples it is between by more than `curved` times the largest second difference around them:
 * where that is too low to matter, nothing is interpolated.
 */
export function interpolatedPeak(x: usize, h: usize, count: i32, peak: f32, gain: f32, near: f32, curved: f32): f32 {
  // The samples themselves come first: the more is known, the less has to be interpolated.
  let most = f32x4.splat(peak);
  const last = x + (<usize>(count + 7) << 2);
  for (let p = x; p < last; p += 16) most = f32x4.pmax(most, magnitudes(p));
  most = highestOfLanes(f32x4.pmax(most, magnitudes(last)));
  const gains = f32x4.splat(gain);
  for (let chunk = 0; chunk < count; chunk += CHUNK) {
    // What may lie beyond the last sample can only cause work that is not needed.
    const c = x + (<usize>chunk << 2);
    let around = magnitudes(c);
    for (let p = c + 16; p < c + 4 * (CHUNK + 12); p += 16) around = f32x4.pmax(around, magnitudes(p));
    if (!v128.any_true(f32x4.gt(f32x4.mul(around, gains), most))) continue;
    const end = min(chunk + CHUNK, count);
    for (let group = chunk; group < end; group += GROUP) {
      const g = x + (<usize>min(group, count - GROUP) << 2);
      const middle = f32x4.pmax(
        f32x4.pmax(f32x4.pmax(magnitudes(g + 20), magnitudes(g + 36)), f32x4.pmax(magnitudes(g + 52), magnitudes(g + 68))),
        magnitudes(g + 72),
      );
      const bent = f32x4.pmax(
        f32x4.pmax(f32x4.pmax(bends(g + 4), bends(g + 20)), f32x4.pmax(bends(g + 36), bends(g + 52))),
        f32x4.pmax(f32x4.pmax(bends(g + 68), bends(g + 84)), bends(g + 88)),
      );
      const most1 = f32x4.mul(highestOfLanes(middle), f32x4.splat(near));
      const most2 = f32x4.mul(highestOfLanes(bent), f32x4.splat(curved));
      if (!v128.any_true(f32x4.gt(f32x4.add(most1, most2), most))) continue;
      most = f32x4.pmax(most, f32x4.splat(interpolated16(g, h, GROUP)));
    }
  }
  return f32x4.extract_lane(most, 0);
}

/**
 * Two filters of second order one after the other, on two channels in the two lanes, and the energy of what comes out.
 * `x` and `y` are byte offsets of `count` float32 samples each; `c` of two times four numbers: of the first filter b0,
 * b1 - a1 b0, b2 - a2 b0 are given with a1 and a2, of the second, whose b0 is 1, what is left; `s` of four vectors of state,
 * followed by one for the energies. Written by its states, so that a frame waits for one product and one sum of the last.
 */
export function weightedEnergy(x: usize, y: usize, count: i32, c: usize, s: usize): void {
  const b0 = v128.load64_splat(c);
  const b1 = v128.load64_splat(c, 8);
  const b2 = v128.load64_splat(c, 16);
  const a1 = v128.load64_splat(c, 24);
  const a2 = v128.load64_splat(c, 32);
  const d1 = v128.load64_splat(c, 40);
  const d2 = v128.load64_splat(c, 48);
  const c1 = v128.load64_splat(c, 56);
  const c2 = v128.load64_splat(c, 64);
  let u1 = v128.load(s);
  let u2 = v128.load(s, 16);
  let v1 = v128.load(s, 32);
  let v2 = v128.load(s, 48);
  let energy = f64x2.splat(0);
  for (let n = 0; n < count; n++) {
    const at = <usize>n << 2;
    const both = f64x2.promote_low_f32x4(v128.shuffle<f32>(v128.load32_zero(x + at), v128.load32_zero(y + at), 0, 4, 1, 1));
    const first = f64x2.add(f64x2.mul(b0, both), u1);
    const u = u1;
    u1 = f64x2.sub(f64x2.add(f64x2.mul(b1, both), u2), f64x2.mul(a1, u));
    u2 = f64x2.sub(f64x2.mul(b2, both), f64x2.mul(a2, u));
    const second = f64x2.add(first, v1);
    const v = v1;
    v1 = f64x2.sub(f64x2.add(f64x2.mul(d1, first), v2), f64x2.mul(c1, v));
    v2 = f64x2.sub(f64x2.mul(d2, first), f64x2.mul(c2, v));
    energy = f64x2.add(energy, f64x2.mul(second, second));
  }
  v128.store(s, u1);
  v128.store(s, u2, 16);
  v128.store(s, v1, 32);
  v128.store(s, v2, 48);
  v128.store(s, energy, 64);
}

/** For each of `bins` runs of `step` float32 samples (a multiple of four) the lowest and the highest, as pairs at `out`. */
export function extremes(x: usize, bins: i32, step: i32, out: usize): void {
  for (let bin = 0; bin < bins; bin++) {
    let low = v128.load(x);
    let high = low;
    const end = x + (<usize>step << 2);
    for (x += 16; x < end; x += 16) {
      const v = v128.load(x);
      low = f32x4.pmin(low, v);
      high = f32x4.pmax(high, v);
    }
    const lows = f32x4.pmin(low, v128.shuffle<f32>(low, low, 2, 3, 2, 3));
    const highs = f32x4.pmax(high, v128.shuffle<f32>(high, high, 2, 3, 2, 3));
    const pair = v128.shuffle<f32>(
      f32x4.pmin(lows, v128.shuffle<f32>(lows, lows, 1, 1, 1, 1)),
      f32x4.pmax(highs, v128.shuffle<f32>(highs, highs, 1, 1, 1, 1)),
      0, 4, 0, 4,
    );
    v128.store64_lane(out, pair, 0);
    out += 8;
  }
}

/** For each of `bins` runs of `step` float32 samples (a multiple of four) the sum of squares, as float64 at `out`. */
export function squares(x: usize, bins: i32, step: i32, out: usize): void {
  for (let bin = 0; bin < bins; bin++) {
    let low = f64x2.splat(0);
    let high = f64x2.splat(0);
    const end = x + (<usize>step << 2);
    for (; x < end; x += 16) {
      const v = v128.load(x);
      const a = f64x2.promote_low_f32x4(v);
      const b = f64x2.promote_low_f32x4(v128.shuffle<f32>(v, v, 2, 3, 2, 3));
      low = f64x2.add(low, f64x2.mul(a, a));
      high = f64x2.add(high, f64x2.mul(b, b));
    }
    const sum = f64x2.add(low, high);
    f64.store(out, f64x2.extract_lane(sum, 0) + f64x2.extract_lane(sum, 1));
    out += 8;
  }
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

/** Joins them again: `count` frames of the channels `left` and `right` at `y`. */
export function joinPair(left: usize, right: usize, y: usize, count: i32): void {
  for (let n = 0; n < count; n += 4) {
    const a = v128.load(left);
    const b = v128.load(right);
    v128.store(y, v128.shuffle<f32>(a, b, 0, 4, 1, 5));
    v128.store(y, v128.shuffle<f32>(a, b, 2, 6, 3, 7), 16);
    left += 16;
    right += 16;
    y += 32;
  }
}

/** Splits 16-bit whole numbers in the same way, which become -1..1. */
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
  return f32x4.extract_lane(highestOfLanes(most), 0);
}

/** Two numbers as whole levels, held in range, in the first two lanes. */
// @ts-ignore: decorator
@inline
function levelsOf(exact: v128, half: v128, lowest: v128, highest: v128): v128 {
  const level = f64x2.floor(f64x2.add(exact, half));
  return i32x4.trunc_sat_f64x2_s_zero(f64x2.pmax(f64x2.pmin(level, highest), lowest));
}

/**
 * Rounds `count` float32 samples at `x` to int32 levels at `y`, four at a time, zeros filling the last four: floor(sample x
 * `scale` + `half`), held between -`scale` and `highest`. Gives how many lay above `most` or half a level below the range.
 */
export function round(x: usize, y: usize, count: i32, scale: f64, half: f64, highest: f64, most: f64): i32 {
  const factor = f64x2.splat(scale);
  const add = f64x2.splat(half);
  const low = f64x2.splat(-scale);
  const high = f64x2.splat(highest);
  const above = f64x2.splat(most);
  const below = f64x2.splat(-scale - 0.5);
  let outside = i64x2.splat(0);
  for (let n = 0; n < count; n += 4) {
    const samples = v128.load(x);
    const a = f64x2.mul(f64x2.promote_low_f32x4(samples), factor);
    const b = f64x2.mul(f64x2.promote_low_f32x4(v128.shuffle<f32>(samples, samples, 2, 3, 2, 3)), factor);
    outside = i64x2.sub(outside, v128.or(f64x2.gt(a, above), f64x2.lt(a, below)));
    outside = i64x2.sub(outside, v128.or(f64x2.gt(b, above), f64x2.lt(b, below)));
    v128.store(y, v128.shuffle<i32>(levelsOf(a, add, low, high), levelsOf(b, add, low, high), 0, 1, 4, 5));
    x += 16;
    y += 16;
  }
  return <i32>(i64x2.extract_lane(outside, 0) + i64x2.extract_lane(outside, 1));
}

/** `count` float32 samples at `x` times a float64 factor, four at a time. */
export function scale(x: usize, y: usize, count: i32, factor: f64): void {
  const by = f64x2.splat(factor);
  for (let n = 0; n < count; n += 4) {
    const samples = v128.load(x);
    const a = f32x4.demote_f64x2_zero(f64x2.mul(f64x2.promote_low_f32x4(samples), by));
    const b = f32x4.demote_f64x2_zero(
      f64x2.mul(f64x2.promote_low_f32x4(v128.shuffle<f32>(samples, samples, 2, 3, 2, 3)), by),
    );
    v128.store(y, v128.shuffle<f32>(a, b, 0, 1, 4, 5));
    x += 16;
    y += 16;
  }
}

/** What a table of 256 float32 numbers has for each of `count` bytes at `x`. */
export function decodeBytes(x: usize, table: usize, y: usize, count: i32): void {
  for (let n = 0; n < count; n++) {
    store<f32>(y, load<f32>(table + (<usize>load<u8>(x) << 2)));
    x++;
    y += 4;
  }
}

/** What a table of 65 536 bytes has for each of `count` int32 numbers at `x`, -32 768 first. */
export function encodeBytes(x: usize, table: usize, y: usize, count: i32): void {
  for (let n = 0; n < count; n++) {
    store<u8>(y, load<u8>(table + <usize>(load<i32>(x) + 32768)));
    x += 4;
    y++;
  }
}

/** The power of `count` float32 samples at `x`, and of the difference of those at `y` from them: float64 at `out`. */
export function deviation(x: usize, y: usize, count: i32, out: usize): void {
  let signal = f64x2.splat(0);
  let noise = f64x2.splat(0);
  for (let n = 0; n < count; n += 4) {
    const exact = v128.load(x);
    const other = v128.load(y);
    const a = f64x2.promote_low_f32x4(exact);
    const b = f64x2.promote_low_f32x4(v128.shuffle<f32>(exact, exact, 2, 3, 2, 3));
    const da = f64x2.sub(f64x2.promote_low_f32x4(other), a);
    const db = f64x2.sub(f64x2.promote_low_f32x4(v128.shuffle<f32>(other, other, 2, 3, 2, 3)), b);
    signal = f64x2.add(signal, f64x2.add(f64x2.mul(a, a), f64x2.mul(b, b)));
    noise = f64x2.add(noise, f64x2.add(f64x2.mul(da, da), f64x2.mul(db, db)));
    x += 16;
    y += 16;
  }
  store<f64>(out, f64x2.extract_lane(signal, 0) + f64x2.extract_lane(signal, 1));
  store<f64>(out, f64x2.extract_lane(noise, 0) + f64x2.extract_lane(noise, 1), 8);
}

/** Lowest and highest of `count` int32 numbers at `x`, a multiple of four, at `out`: four lanes of each. */
export function span(x: usize, count: i32, out: usize): void {
  let low = v128.load(x);
  let high = low;
  for (let n = 4; n < count; n += 4) {
    x += 16;
    const levels = v128.load(x);
    low = i32x4.min_s(low, levels);
    high = i32x4.max_s(high, levels);
  }
  v128.store(out, low);
  v128.store(out, high, 16);
}

/** What eight tables of 256 int32 numbers, one after the other, have for a byte. */
// @ts-ignore: decorator
@inline
function entryOf(tables: usize, table: usize, byte: u32): u32 {
  return load<u32>(tables + (table << 10) + (<usize>(byte & 255) << 2));
}

/** Goes on with a CRC of 32 bits, its bits reversed, over `count` bytes at `x`, a multiple of eight. */
export function crc32(x: usize, tables: usize, count: i32, before: u32): u32 {
  let value = before;
  for (let n = 0; n < count; n += 8) {
    const a = load<u32>(x) ^ value;
    const b = load<u32>(x, 4);
    value =
      entryOf(tables, 7, a) ^
      entryOf(tables, 6, a >> 8) ^
      entryOf(tables, 5, a >> 16) ^
      entryOf(tables, 4, a >> 24) ^
      entryOf(tables, 3, b) ^
      entryOf(tables, 2, b >> 8) ^
      entryOf(tables, 1, b >> 16) ^
      entryOf(tables, 0, b >> 24);
    x += 8;
  }
  return value;
}

/** Whether all of `count` float32 samples at `x`, a multiple of four, are numbers of at most `limit` in magnitude. */
export function within(x: usize, count: i32, limit: f32): i32 {
  const most = f32x4.splat(limit);
  let all = i32x4.splat(-1);
  for (let n = 0; n < count; n += 4) {
    // Of what is no number this is not true.
    all = v128.and(all, f32x4.le(f32x4.abs(v128.load(x)), most));
    x += 16;
  }
  return i32x4.all_true(all) ? 1 : 0;
}

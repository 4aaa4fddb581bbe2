// AssemblyScript, compiled with kernel.as.ts. `blockTwin` in blocks.ts does the same sums in the same order.
//
// Fourier transforms of complex numbers, four side by side in the lanes of a vector: an element is 32 bytes, four real
// parts and four imaginary parts. Decimation in frequency, in place, with a radix of its own for each pass; results stand
// in the order of their reversed digits, and whoever reads them knows the places.

const SIZE: usize = 32;
const IMAGINARY: usize = 16;

/** Stores a result, turned by the factor (cosine, sine) at `factor` if there is one. */
// @ts-ignore: decorator
@inline
function put(at: usize, re: v128, im: v128, factor: usize, isTurned: bool): void {
  if (isTurned) {
    const c = v128.load32_splat(factor);
    const s = v128.load32_splat(factor, 4);
    v128.store(at, f32x4.sub(f32x4.mul(re, c), f32x4.mul(im, s)));
    v128.store(at, f32x4.add(f32x4.mul(re, s), f32x4.mul(im, c)), IMAGINARY);
  } else {
    v128.store(at, re);
    v128.store(at, im, IMAGINARY);
  }
}

// @ts-ignore: decorator
@inline
function two(p: usize, step: usize, factor: usize, isTurned: bool): void {
  const q = p + step;
  const ar = v128.load(p);
  const ai = v128.load(p, IMAGINARY);
  const br = v128.load(q);
  const bi = v128.load(q, IMAGINARY);
  put(p, f32x4.add(ar, br), f32x4.add(ai, bi), 0, false);
  put(q, f32x4.sub(ar, br), f32x4.sub(ai, bi), factor, isTurned);
}

const HALF_ROOT_3: f32 = 0.8660254037844386;

// @ts-ignore: decorator
@inline
function three(p: usize, step: usize, factor: usize, isTurned: bool): void {
  const p1 = p + step;
  const p2 = p1 + step;
  const xr = v128.load(p);
  const xi = v128.load(p, IMAGINARY);
  const ar = v128.load(p1);
  const ai = v128.load(p1, IMAGINARY);
  const br = v128.load(p2);
  const bi = v128.load(p2, IMAGINARY);
  const tr = f32x4.add(ar, br);
  const ti = f32x4.add(ai, bi);
  const half = f32x4.splat(0.5);
  const sine = f32x4.splat(HALF_ROOT_3);
  const mr = f32x4.sub(xr, f32x4.mul(half, tr));
  const mi = f32x4.sub(xi, f32x4.mul(half, ti));
  const nr = f32x4.mul(sine, f32x4.sub(ar, br));
  const ni = f32x4.mul(sine, f32x4.sub(ai, bi));
  put(p, f32x4.add(xr, tr), f32x4.add(xi, ti), 0, false);
  put(p1, f32x4.add(mr, ni), f32x4.sub(mi, nr), factor, isTurned);
  put(p2, f32x4.sub(mr, ni), f32x4.add(mi, nr), factor + 8, isTurned);
}

// @ts-ignore: decorator
@inline
function four(p: usize, step: usize, factor: usize, isTurned: bool): void {
  const p1 = p + step;
  const p2 = p1 + step;
  const p3 = p2 + step;
  const x0r = v128.load(p);
  const x0i = v128.load(p, IMAGINARY);
  const x1r = v128.load(p1);
  const x1i = v128.load(p1, IMAGINARY);
  const x2r = v128.load(p2);
  const x2i = v128.load(p2, IMAGINARY);
  const x3r = v128.load(p3);
  const x3i = v128.load(p3, IMAGINARY);
  const ar = f32x4.add(x0r, x2r);
  const ai = f32x4.add(x0i, x2i);
  const br = f32x4.sub(x0r, x2r);
  const bi = f32x4.sub(x0i, x2i);
  const cr = f32x4.add(x1r, x3r);
  const ci = f32x4.add(x1i, x3i);
  const dr = f32x4.sub(x1r, x3r);
  const di = f32x4.sub(x1i, x3i);
  put(p, f32x4.add(ar, cr), f32x4.add(ai, ci), 0, false);
  put(p1, f32x4.add(br, di), f32x4.sub(bi, dr), factor, isTurned);
  put(p2, f32x4.sub(ar, cr), f32x4.sub(ai, ci), factor + 8, isTurned);
  put(p3, f32x4.sub(br, di), f32x4.add(bi, dr), factor + 16, isTurned);
}

/** w x, all four alike. */
// @ts-ignore: decorator
@inline
function times(w: f32, x: v128): v128 {
  return f32x4.mul(f32x4.splat(w), x);
}

const C5_1: f32 = 0.30901699437494745;
const C5_2: f32 = -0.8090169943749475;
const S5_1: f32 = 0.9510565162951535;
const S5_2: f32 = 0.5877852522924731;

// @ts-ignore: decorator
@inline
function five(p: usize, step: usize, factor: usize, isTurned: bool): void {
  const p1 = p + step;
  const p2 = p1 + step;
  const p3 = p2 + step;
  const p4 = p3 + step;
  const xr = v128.load(p);
  const xi = v128.load(p, IMAGINARY);
  const x1r = v128.load(p1);
  const x1i = v128.load(p1, IMAGINARY);
  const x2r = v128.load(p2);
  const x2i = v128.load(p2, IMAGINARY);
  const x3r = v128.load(p3);
  const x3i = v128.load(p3, IMAGINARY);
  const x4r = v128.load(p4);
  const x4i = v128.load(p4, IMAGINARY);
  const t1r = f32x4.add(x1r, x4r);
  const t1i = f32x4.add(x1i, x4i);
  const d1r = f32x4.sub(x1r, x4r);
  const d1i = f32x4.sub(x1i, x4i);
  const t2r = f32x4.add(x2r, x3r);
  const t2i = f32x4.add(x2i, x3i);
  const d2r = f32x4.sub(x2r, x3r);
  const d2i = f32x4.sub(x2i, x3i);
  put(p, f32x4.add(f32x4.add(xr, t1r), t2r), f32x4.add(f32x4.add(xi, t1i), t2i), 0, false);
  const m1r = f32x4.add(f32x4.add(xr, times(C5_1, t1r)), times(C5_2, t2r));
  const m1i = f32x4.add(f32x4.add(xi, times(C5_1, t1i)), times(C5_2, t2i));
  const n1r = f32x4.add(times(S5_1, d1r), times(S5_2, d2r));
  const n1i = f32x4.add(times(S5_1, d1i), times(S5_2, d2i));
  put(p1, f32x4.add(m1r, n1i), f32x4.sub(m1i, n1r), factor, isTurned);
  put(p4, f32x4.sub(m1r, n1i), f32x4.add(m1i, n1r), factor + 24, isTurned);
  const m2r = f32x4.add(f32x4.add(xr, times(C5_2, t1r)), times(C5_1, t2r));
  const m2i = f32x4.add(f32x4.add(xi, times(C5_2, t1i)), times(C5_1, t2i));
  const n2r = f32x4.sub(times(S5_2, d1r), times(S5_1, d2r));
  const n2i = f32x4.sub(times(S5_2, d1i), times(S5_1, d2i));
  put(p2, f32x4.add(m2r, n2i), f32x4.sub(m2i, n2r), factor + 8, isTurned);
  put(p3, f32x4.sub(m2r, n2i), f32x4.add(m2i, n2r), factor + 16, isTurned);
}

const C7_1: f32 = 0.6234898018587336;
const C7_2: f32 = -0.22252093395631434;
const C7_3: f32 = -0.900968867902419;
const S7_1: f32 = 0.7818314824680298;
const S7_2: f32 = 0.9749279121818236;
const S7_3: f32 = 0.43388373911755823;

// @ts-ignore: decorator
@inline
function seven(p: usize, step: usize, factor: usize, isTurned: bool): void {
  const p1 = p + step;
  const p2 = p1 + step;
  const p3 = p2 + step;
  const p4 = p3 + step;
  const p5 = p4 + step;
  const p6 = p5 + step;
  const xr = v128.load(p);
  const xi = v128.load(p, IMAGINARY);
  const x1r = v128.load(p1);
  const x1i = v128.load(p1, IMAGINARY);
  const x6r = v128.load(p6);
  const x6i = v128.load(p6, IMAGINARY);
  const x2r = v128.load(p2);
  const x2i = v128.load(p2, IMAGINARY);
  const x5r = v128.load(p5);
  const x5i = v128.load(p5, IMAGINARY);
  const x3r = v128.load(p3);
  const x3i = v128.load(p3, IMAGINARY);
  const x4r = v128.load(p4);
  const x4i = v128.load(p4, IMAGINARY);
  const t1r = f32x4.add(x1r, x6r);
  const t1i = f32x4.add(x1i, x6i);
  const d1r = f32x4.sub(x1r, x6r);
  const d1i = f32x4.sub(x1i, x6i);
  const t2r = f32x4.add(x2r, x5r);
  const t2i = f32x4.add(x2i, x5i);
  const d2r = f32x4.sub(x2r, x5r);
  const d2i = f32x4.sub(x2i, x5i);
  const t3r = f32x4.add(x3r, x4r);
  const t3i = f32x4.add(x3i, x4i);
  const d3r = f32x4.sub(x3r, x4r);
  const d3i = f32x4.sub(x3i, x4i);
  put(
    p,
    f32x4.add(f32x4.add(f32x4.add(xr, t1r), t2r), t3r),
    f32x4.add(f32x4.add(f32x4.add(xi, t1i), t2i), t3i),
    0,
    false,
  );
  const m1r = f32x4.add(f32x4.add(f32x4.add(xr, times(C7_1, t1r)), times(C7_2, t2r)), times(C7_3, t3r));
  const m1i = f32x4.add(f32x4.add(f32x4.add(xi, times(C7_1, t1i)), times(C7_2, t2i)), times(C7_3, t3i));
  const n1r = f32x4.add(f32x4.add(times(S7_1, d1r), times(S7_2, d2r)), times(S7_3, d3r));
  const n1i = f32x4.add(f32x4.add(times(S7_1, d1i), times(S7_2, d2i)), times(S7_3, d3i));
  put(p1, f32x4.add(m1r, n1i), f32x4.sub(m1i, n1r), factor, isTurned);
  put(p6, f32x4.sub(m1r, n1i), f32x4.add(m1i, n1r), factor + 40, isTurned);
  const m2r = f32x4.add(f32x4.add(f32x4.add(xr, times(C7_2, t1r)), times(C7_3, t2r)), times(C7_1, t3r));
  const m2i = f32x4.add(f32x4.add(f32x4.add(xi, times(C7_2, t1i)), times(C7_3, t2i)), times(C7_1, t3i));
  const n2r = f32x4.sub(f32x4.sub(times(S7_2, d1r), times(S7_3, d2r)), times(S7_1, d3r));
  const n2i = f32x4.sub(f32x4.sub(times(S7_2, d1i), times(S7_3, d2i)), times(S7_1, d3i));
  put(p2, f32x4.add(m2r, n2i), f32x4.sub(m2i, n2r), factor + 8, isTurned);
  put(p5, f32x4.sub(m2r, n2i), f32x4.add(m2i, n2r), factor + 32, isTurned);
  const m3r = f32x4.add(f32x4.add(f32x4.add(xr, times(C7_3, t1r)), times(C7_1, t2r)), times(C7_2, t3r));
  const m3i = f32x4.add(f32x4.add(f32x4.add(xi, times(C7_3, t1i)), times(C7_1, t2i)), times(C7_2, t3i));
  const n3r = f32x4.add(f32x4.sub(times(S7_3, d1r), times(S7_1, d2r)), times(S7_2, d3r));
  const n3i = f32x4.add(f32x4.sub(times(S7_3, d1i), times(S7_1, d2i)), times(S7_2, d3i));
  put(p3, f32x4.add(m3r, n3i), f32x4.sub(m3i, n3r), factor + 16, isTurned);
  put(p4, f32x4.sub(m3r, n3i), f32x4.add(m3i, n3r), factor + 24, isTurned);
}

// @ts-ignore: decorator
@inline
function butterfly(radix: i32, p: usize, step: usize, factor: usize, isTurned: bool): void {
  if (radix == 2) two(p, step, factor, isTurned);
  else if (radix == 3) three(p, step, factor, isTurned);
  else if (radix == 4) four(p, step, factor, isTurned);
  else if (radix == 5) five(p, step, factor, isTurned);
  else seven(p, step, factor, isTurned);
}

/** One pass over `count` elements, in groups of `length`; the last, whose groups are as long as the radix, turns nothing. */
// @ts-ignore: decorator
@inline
function pass(radix: i32, data: usize, count: i32, length: i32, factors: usize): void {
  const step = <usize>(length / radix) * SIZE;
  const group = <usize>length * SIZE;
  const end = data + <usize>count * SIZE;
  if (length == radix) {
    for (let p = data; p < end; p += group) butterfly(radix, p, step, 0, false);
  } else {
    for (let base = data; base < end; base += group) {
      let factor = factors;
      for (let p = base; p < base + step; p += SIZE) {
        butterfly(radix, p, step, factor, true);
        factor += <usize>(radix - 1) << 3;
      }
    }
  }
}

/**
 * Transforms `count` elements at `data`. `radices` are bytes, their product `count`; `factors` float32 pairs, for each pass
 * those of its first group: for each element those of its results 1 to radix - 1.
 */
export function transform(data: usize, count: i32, radices: usize, passes: i32, factors: usize): void {
  let length = count;
  for (let n = 0; n < passes; n++) {
    const radix = <i32>load<u8>(radices + n);
    if (radix == 2) pass(2, data, count, length, factors);
    else if (radix == 3) pass(3, data, count, length, factors);
    else if (radix == 4) pass(4, data, count, length, factors);
    else if (radix == 5) pass(5, data, count, length, factors);
    else pass(7, data, count, length, factors);
    length /= radix;
    factors += <usize>(length * (radix - 1)) << 3;
  }
}

/** Four vectors of four samples each, stored as four vectors `SIZE` apart that hold one of each. */
// @ts-ignore: decorator
@inline
function turnFour(a: v128, b: v128, c: v128, d: v128, to: usize, step: usize): void {
  const ab = v128.shuffle<f32>(a, b, 0, 4, 1, 5);
  const cd = v128.shuffle<f32>(c, d, 0, 4, 1, 5);
  const ef = v128.shuffle<f32>(a, b, 2, 6, 3, 7);
  const gh = v128.shuffle<f32>(c, d, 2, 6, 3, 7);
  v128.store(to, v128.shuffle<f32>(ab, cd, 0, 1, 4, 5));
  v128.store(to + step, v128.shuffle<f32>(ab, cd, 2, 3, 6, 7));
  v128.store(to + 2 * step, v128.shuffle<f32>(ef, gh, 0, 1, 4, 5));
  v128.store(to + 3 * step, v128.shuffle<f32>(ef, gh, 2, 3, 6, 7));
}

/** Eight blocks of `count` samples (a multiple of 4), `hop` apart: the first four become real, the others imaginary parts. */
export function takeBlocks(x: usize, hop: i32, data: usize, count: i32): void {
  const row = <usize>hop << 2;
  for (let n = 0; n < count; n += 4) {
    let p = x;
    for (let part: usize = 0; part < SIZE; part += IMAGINARY) {
      const q = p + 2 * row;
      turnFour(v128.load(p), v128.load(p + row), v128.load(q), v128.load(q + row), data + part, SIZE);
      p += 4 * row;
    }
    x += 16;
    data += 4 * SIZE;
  }
}

// @ts-ignore: decorator
@inline
function weighBin(from: usize, weight: v128, to: usize): void {
  const re = v128.load(from);
  const im = v128.load(from, IMAGINARY);
  v128.store(to, f32x4.mul(im, weight));
  v128.store(to, f32x4.mul(re, weight), IMAGINARY);
}

/**
 * Weighs the `kept` lowest bins of both signs of a transform, and puts them into one of `count` bins, zeros elsewhere.
 * Real and imaginary parts change places, so that transforming again goes back. `places` are the byte offsets of the bins
 * of `data`, `size` of them, `weights` float32, one for a bin of either sign.
 */
export function weighBins(
  data: usize,
  places: usize,
  size: i32,
  weights: usize,
  kept: i32,
  bins: usize,
  count: i32,
): void {
  memory.fill(bins + <usize>kept * SIZE, 0, <usize>(count - 2 * kept + 1) * SIZE);
  weighBin(data + load<u32>(places), v128.load32_splat(weights), bins);
  let low = places;
  let high = places + (<usize>size << 2);
  let to = bins;
  let mirrored = bins + <usize>count * SIZE;
  for (let k = 1; k < kept; k++) {
    low += 4;
    high -= 4;
    weights += 4;
    to += SIZE;
    mirrored -= SIZE;
    const weight = v128.load32_splat(weights);
    weighBin(data + load<u32>(low), weight, to);
    weighBin(data + load<u32>(high), weight, mirrored);
  }
}

/** Eight blocks out of their places, `count` samples of each from the first place on, `row` bytes apart (16 at a time). */
export function giveBlocks(data: usize, places: usize, y: usize, count: i32, row: usize): void {
  for (let n = 0; n < count; n += 4) {
    const a = data + load<u32>(places);
    const b = data + load<u32>(places, 4);
    const c = data + load<u32>(places, 8);
    const d = data + load<u32>(places, 12);
    turnFour(
      v128.load(a, IMAGINARY),
      v128.load(b, IMAGINARY),
      v128.load(c, IMAGINARY),
      v128.load(d, IMAGINARY),
      y,
      row,
    );
    turnFour(v128.load(a), v128.load(b), v128.load(c), v128.load(d), y + 4 * row, row);
    places += 16;
    y += 16;
  }
}

/** Multiplies each of `count` elements by one of as many float32 numbers. */
export function weighElements(data: usize, weights: usize, count: i32): void {
  for (let n = 0; n < count; n++) {
    const weight = v128.load32_splat(weights);
    v128.store(data, f32x4.mul(v128.load(data), weight));
    v128.store(data, f32x4.mul(v128.load(data, IMAGINARY), weight), IMAGINARY);
    weights += 4;
    data += SIZE;
  }
}

/**
 * Power of `count` bins by frequency, both signs and all four lanes together: `count` / 2 + 1 float64 numbers, added to
 * those at `power`. What is transformed are two real sounds in one, as real and imaginary parts: the powers of a bin and of
 * the one of the other sign together are those of both. `places` has `count` + 1 entries, the last like the first.
 */
export function gatherPower(data: usize, places: usize, count: i32, power: usize): void {
  let mirror = places + (<usize>count << 2);
  for (let k = 0; k <= count >> 1; k++) {
    const p = data + load<u32>(places);
    const q = data + load<u32>(mirror);
    let sum = f32x4.add(square(p), square(p + IMAGINARY));
    if (k > 0) sum = f32x4.add(sum, f32x4.add(square(q), square(q + IMAGINARY)));
    const sides = f32x4.add(sum, v128.shuffle<f32>(sum, sum, 2, 3, 2, 3));
    store<f64>(power, load<f64>(power) + <f64>(f32x4.extract_lane(sides, 0) + f32x4.extract_lane(sides, 1)));
    places += 4;
    mirror -= 4;
    power += 8;
  }
}

// @ts-ignore: decorator
@inline
function square(at: usize): v128 {
  const v = v128.load(at);
  return f32x4.mul(v, v);
}

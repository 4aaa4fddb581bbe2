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

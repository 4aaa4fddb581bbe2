/**
 * How often somebody who only guesses is right at least so many times: the upper tail of the binomial distribution for a
 * chance of one half (any textbook of statistics).
 * @param right of how many rounds
 * @returns 0..1
 */
export function chanceOfGuessing(right: number, rounds: number): number {
  let sum = 0;
  // Binomial coefficients one from the next, each weighted: no factorial becomes too large.
  let weight = 0.5 ** rounds;
  for (let k = 0; k <= rounds; k++) {
    if (k >= right) sum += weight;
    weight *= (rounds - k) / (k + 1);
  }
  return Math.min(1, sum);
}

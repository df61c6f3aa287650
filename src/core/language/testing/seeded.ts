/** For tests only: numbers by chance that are the same each time (a linear congruential generator, Numerical Recipes' constants, from memory). */
export function seeded(seed: number) {
  let state = seed;
  const random = (below: number): number => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
  return { random, one: <T>(of: readonly T[]): T => of[random(of.length)] as T };
}

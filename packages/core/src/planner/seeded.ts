/** Seeded chances from [0, 1), a linear congruence of 32 bits (constants of Numerical Recipes, from memory). */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => (state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0) / 2 ** 32;
}

import seedrandom from 'seedrandom';

/** Smooth noise between −1 and 1 on a lattice of chance, the same for the same seed. */
export function createNoise(seed: string): (x: number, y: number) => number {
  const lattice = new Map<string, number>();
  const at = (i: number, j: number): number => {
    const key = `${i}/${j}`;
    const known = lattice.get(key);
    if (known !== undefined) return known;
    const value = 2 * seedrandom(`${seed}/${key}`)() - 1;
    lattice.set(key, value);
    return value;
  };
  const ease = (t: number) => t * t * (3 - 2 * t);
  const octave = (x: number, y: number): number => {
    const [i, j] = [Math.floor(x), Math.floor(y)];
    const [u, v] = [ease(x - i), ease(y - j)];
    const low = at(i, j) * (1 - u) + at(i + 1, j) * u;
    const high = at(i, j + 1) * (1 - u) + at(i + 1, j + 1) * u;
    return low * (1 - v) + high * v;
  };
  return (x, y) =>
    octave(x, y) * 0.55 + octave(2.1 * x + 7, 2.1 * y + 3) * 0.28 + octave(4.3 * x + 1, 4.3 * y + 9) * 0.17;
}

export interface Directed {
  readonly from: string;
  readonly to: string;
}

/** Stations by number, in the order in which links name them. */
export function numbered(links: readonly Directed[]) {
  const numbers = new Map<string, number>();
  const names: string[] = [];
  const number = (name: string) => {
    const known = numbers.get(name);
    if (known !== undefined) return known;
    numbers.set(name, names.length);
    return names.push(name) - 1;
  };
  return { ends: links.map(({ from, to }) => [number(from), number(to)] as const), number, names };
}

/**
 * Floods of `from` in which every link is up or not by its chance, one after the other; `chances` holds for each link that of each draw.
 * Whoever is asked for, `to`, is not among those who are reached: `getsThere` tells the chance of that. Stations are numbers, and who was
 * reached is marked by the number of the flood, so that nothing is made or cleared for one of thousands.
 */
export function createFlood(
  links: readonly Directed[],
  from: string,
  to: string | null,
  chances: readonly (readonly number[])[],
) {
  const { ends, number, names } = numbered(links);
  const first = number(from);
  const far = to === null ? -1 : number(to);
  const outgoing = names.map((): number[] => []);
  const direct: number[] = [];
  for (const [n, [start, end]] of ends.entries()) (end === far ? direct : outgoing[start]!).push(n);
  // The links of a station behind one another, those of `here` from begins[here] on.
  const order = outgoing.flat();
  const begins = new Uint32Array(names.length + 1);
  for (const [here, leading] of outgoing.entries()) begins[here + 1] = begins[here]! + leading.length;
  const target = Uint32Array.from(order, (n) => ends[n]![1]);
  const draws = Array.from({ length: chances[0]?.length ?? 0 }, (_, draw) => {
    const up = new Float64Array(order.length);
    for (let n = 0; n < order.length; n++) up[n] = chances[order[n]!]![draw]!;
    // Chance of each station that `to` does not hear it.
    const unheard = new Float64Array(names.length).fill(1);
    for (const n of direct) unheard[ends[n]![0]]! *= 1 - chances[n]![draw]!;
    return { up, unheard };
  });

  const mark = new Uint32Array(names.length);
  const queue = new Uint32Array(names.length);
  let flood = 0;
  /** Of the queue so many are reached, and those from `edge` on have not sent yet. */
  let [edge, end] = [0, 0];
  const begin = () => {
    flood++;
    mark[first] = flood;
    queue[0] = first;
    [edge, end] = [0, 1];
  };
  const reach = (there: number) => {
    if (mark[there] === flood) return;
    mark[there] = flood;
    queue[end++] = there;
  };
  const run = (draw: number, sendings: number, random: () => number): void => {
    begin();
    const { up } = draws[draw]!;
    for (let sent = 0; sent < sendings && edge < end; sent++)
      for (const until = end; edge < until; edge++)
        for (let n = begins[queue[edge]!]!, last = begins[queue[edge]! + 1]!; n < last; n++)
          if (mark[target[n]!] !== flood && random() < up[n]!) reach(target[n]!);
  };

  // Of those who may hear who sends next: the chance that they hear none of them.
  const missed = new Float64Array(names.length);
  const maybe = new Uint32Array(names.length);
  const asked = new Uint32Array(names.length);
  let asking = 0;
  /** Chance that `to` hears one of those who are reached, or one of those whom they reach in turn where `goesOn`. */
  const getsThere = (draw: number, goesOn: boolean): number => {
    const { up, unheard } = draws[draw]!;
    let none = 1;
    for (let n = 0; n < end; n++) none *= unheard[queue[n]!]!;
    if (!goesOn) return 1 - none;
    asking++;
    let count = 0;
    for (let here = edge; here < end; here++)
      for (let n = begins[queue[here]!]!, last = begins[queue[here]! + 1]!; n < last; n++) {
        const there = target[n]!;
        if (mark[there] === flood) continue;
        if (asked[there] !== asking) {
          asked[there] = asking;
          maybe[count++] = there;
          missed[there] = 1;
        }
        missed[there]! *= 1 - up[n]!;
      }
    for (let n = 0; n < count; n++) none *= 1 - (1 - missed[maybe[n]!]!) * (1 - unheard[maybe[n]!]!);
    return 1 - none;
  };

  const hearing = begins[first + 1]! - begins[first]!;
  /** Chance that `to` is reached over two who repeat at most, from every set of those who hear the sender. */
  const overTwo = (draw: number): number => {
    const { up } = draws[draw]!;
    let sum = 0;
    for (let set = 0; set < 2 ** hearing; set++) {
      begin();
      edge = end;
      let chance = 1;
      for (let n = 0; n < hearing; n++) {
        const link = begins[first]! + n;
        const isUp = (set & (1 << n)) !== 0;
        chance *= isUp ? up[link]! : 1 - up[link]!;
        if (isUp) reach(target[link]!);
      }
      sum += chance * getsThere(draw, true);
    }
    return sum;
  };
  return { names, hearing, run, reached: () => queue.subarray(0, end), getsThere, overTwo };
}

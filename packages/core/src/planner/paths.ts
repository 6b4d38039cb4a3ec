/** The path schools of radio text. Local conventions come first: an operator can type another. */
export const PATH_SCHOOLS = [
  {
    id: 'fill-in first',
    path: ['WIDE1-1', 'WIDE2-1'],
    reason: 'Two hops; the first may be a nearby fill-in digipeater. For hand-helds and cars low down.',
  },
  {
    id: 'wide only',
    path: ['WIDE2-2'],
    reason: 'Two hops through high digipeaters only; fill-ins stay silent. For stations that a high digipeater hears.',
  },
  {
    id: 'fill-in only',
    path: ['WIDE1-1'],
    reason: 'One hop. Keeps local traffic local.',
  },
  {
    id: 'direct',
    path: [],
    reason: 'No digipeater. Least air time; for stations in direct range.',
  },
] as const;

export type PathSchool = (typeof PATH_SCHOOLS)[number]['id'];

export interface HeardLately {
  readonly how: 'direct' | 'relayed' | 'internet';
  readonly hops: number;
}

export interface PathAdvice {
  readonly school: PathSchool;
  readonly reason: string;
}

/** Which path to propose, from how the addressee was last heard. */
export function advisePath(addressee: string, heard: HeardLately | null): PathAdvice {
  if (heard?.how === 'direct')
    return { school: 'direct', reason: `${addressee} was last heard direct: no digipeater is needed.` };
  if (heard?.how === 'relayed' && heard.hops <= 1)
    return { school: 'fill-in only', reason: `${addressee} was last heard over one hop.` };
  if (heard?.how === 'relayed')
    return {
      school: 'fill-in first',
      reason: `${addressee} was last heard over ${heard.hops} hops, and a hand-held is helped by a fill-in.`,
    };
  return {
    school: 'fill-in first',
    reason: heard
      ? `${addressee} was heard by internet only: the widest of the usual paths.`
      : `${addressee} has not been heard yet: the widest of the usual paths.`,
  };
}

/** Hops a path may take: each WIDEn-N gives N, any other element one. */
export const pathHops = (path: readonly string[]): number =>
  path.reduce((hops, element) => hops + Number(/^(?:WIDE|TRACE)[1-7]-([1-7])$/.exec(element)?.[1] ?? 1), 0);

/** The path for an acknowledgement: no longer than the way the message came. */
export function acknowledgementPath(
  heard: { readonly how: HeardLately['how']; readonly via: readonly string[]; readonly unnamedHops: number },
  usual: readonly string[],
): string[] {
  if (heard.how === 'direct') return [];
  if (heard.how === 'relayed' && heard.via.length + heard.unnamedHops === 1) return ['WIDE1-1'];
  return [...usual];
}

import { remainingHops } from '../aprs/element';
import type { HeardPath } from '../aprs/path';

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
    id: 'one wide',
    path: ['WIDE2-1'],
    reason: 'One hop through high digipeaters only; fill-ins stay silent.',
  },
  {
    id: 'direct',
    path: [],
    reason: 'No digipeater. Least air time; for stations in direct range.',
  },
] as const;

export type PathSchool = (typeof PATH_SCHOOLS)[number]['id'];

/** Whether a path is one of them; another one was made by somebody who knows the place. */
export const isUsualPath = (path: readonly string[]): boolean =>
  PATH_SCHOOLS.some((school) => school.path.join() === path.join());

export interface HeardLately {
  readonly how: 'direct' | 'relayed' | 'internet';
  /** Digipeaters that repeated it, in order, as far as they are named. */
  readonly via: readonly string[];
  /** Hops used up that no call stands for. */
  readonly unnamedHops: number;
  /** The only digipeater of the way was lately heard repeating our own packets first-hand. */
  readonly repeatsUs: boolean;
}

const hopsOf = (heard: HeardLately): number => heard.via.length + heard.unnamedHops;

/** Hops a path may take: each WIDEn-N gives N, any other element one. */
export const pathHops = (path: readonly string[]): number =>
  path.reduce((hops, element) => hops + Math.max(1, remainingHops(element)), 0);

/** Hops that the sender of a packet asked for, by how it came: those that were taken and those that are left. */
export const hopsAskedFor = ({ hops, unused }: Pick<HeardPath, 'hops' | 'unused'>): number =>
  hops.length + pathHops(unused);

/**
 * The path for an acknowledgement: the bearer's own, or a shorter one where the way back is known to work; of a path that is none of the
 * usual ones only no digipeater at all is shorter.
 */
export function acknowledgementPath(heard: HeardLately, usual: readonly string[]): string[] {
  if (heard.how === 'direct') return [];
  const canBeShorter = isUsualPath(usual) && pathHops(usual) > 0;
  if (canBeShorter && heard.how === 'relayed' && hopsOf(heard) === 1 && heard.repeatsUs) return ['WIDE1-1'];
  return [...usual];
}

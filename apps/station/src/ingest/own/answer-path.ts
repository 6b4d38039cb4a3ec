import { acknowledgementPath } from '@tombolo/core';
import type { Queries } from '../../store/database';
import { repeatersOfOurs } from '../../store/evidence';
import type { Stored } from '../store-heard';

/** The path by which whoever was heard like this is answered; `usual` is that of the bearer. */
export async function answerPath(
  queries: Queries,
  { understood }: Stored,
  usual: readonly string[],
): Promise<string[]> {
  const path = understood.path!;
  const { hops, via } = path;
  const repeatsUs =
    hops.length === 1 && hops[0]!.certain && via.length === 1 && (await repeatersOfOurs(queries)).has(via[0]!);
  return acknowledgementPath({ ...path, unnamedHops: hops.length - via.length, repeatsUs }, usual);
}

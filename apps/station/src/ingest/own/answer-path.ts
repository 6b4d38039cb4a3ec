import { acknowledgementPath } from '@tombolo/core';
import { carriageOf, type BearerConfig } from '@tombolo/contract';
import { rowsOf, type Queries } from '../../store/database';
import { repeatersOfOurs } from '../../store/evidence';
import type { Stored } from '../store-heard';

/** The path by which whoever was heard like this is answered over a bearer. */
export async function answerPath(queries: Queries, { understood }: Stored, bearerId: string): Promise<string[]> {
  const path = understood.path!;
  const { hops, via } = path;
  const repeatsUs =
    hops.length === 1 && hops[0]!.certain && via.length === 1 && (await repeatersOfOurs(queries)).has(via[0]!);
  const [bearer] = await rowsOf<{ config: BearerConfig }>(queries, 'select config from bearer where id = $1', [
    bearerId,
  ]);
  const carriage = bearer && carriageOf(bearer.config);
  const usual = carriage?.what === 'packets' ? carriage.path : [];
  return acknowledgementPath({ ...path, unnamedHops: hops.length - via.length, repeatsUs }, usual);
}

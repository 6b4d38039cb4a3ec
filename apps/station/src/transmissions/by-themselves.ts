import type { transmissionsQuery, TransmissionView } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { IsNull } from 'typeorm';
import type { z } from 'zod';
import { LegEntity, type LegRow } from '../store/entities';
import { evidenceByItself } from '../store/evidence';
import { legViews } from './views';

/** What went out, or waits to, and belongs to no item; newest first, with its evidence. */
export async function transmissionsByThemselves(
  source: DataSource,
  { before, limit }: z.output<typeof transmissionsQuery>,
): Promise<{ rows: TransmissionView[]; next: string | null }> {
  const [ms = '0', id = ''] = before?.split(/:(.*)/) ?? [];
  const legs = source.getRepository(LegEntity).createQueryBuilder('leg').where({ itemId: IsNull() });
  if (before)
    legs.andWhere('(leg.created_at < :at or (leg.created_at = :at and leg.id > :id))', {
      at: new Date(Number(ms)),
      id,
    });
  const found = await legs
    .orderBy('leg.created_at', 'DESC')
    .addOrderBy('leg.id')
    .limit(limit + 1)
    .getMany();
  const page = found.slice(0, limit);
  const last = page.at(-1);
  return {
    rows: await viewsOf(source, page),
    next: found.length > limit && last ? `${last.createdAt.getTime()}:${last.id}` : null,
  };
}

/** One of them; null when there is none of that identifier. */
export async function transmissionByItself(source: DataSource, id: string): Promise<TransmissionView | null> {
  const leg = await source.getRepository(LegEntity).findOneBy({ id, itemId: IsNull() });
  return leg && (await viewsOf(source, [leg]))[0]!;
}

async function viewsOf(source: DataSource, legs: readonly LegRow[]): Promise<TransmissionView[]> {
  const evidence = await evidenceByItself(
    source,
    legs.map(({ id }) => id),
  );
  return (await legViews(source, legs)).map((leg) => ({ ...leg, evidence: evidence.get(leg.id) ?? [] }));
}

import type { transmissionsQuery, TransmissionView } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { IsNull } from 'typeorm';
import type { z } from 'zod';
import { LegEntity } from '../store/entities';
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
  const evidence = await evidenceByItself(
    source,
    page.map(({ id: legId }) => legId),
  );
  const last = page.at(-1);
  return {
    rows: (await legViews(source, page)).map((leg) => ({ ...leg, evidence: evidence.get(leg.id) ?? [] })),
    next: found.length > limit && last ? `${last.createdAt.getTime()}:${last.id}` : null,
  };
}

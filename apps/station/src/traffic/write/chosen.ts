import { carriageOf, locksOf, type Carriage, type Settings, type WrittenItem } from '@tombolo/contract';
import type { EntityManager } from 'typeorm';
import { ProblemError } from '../../problem-error';
import { BearerEntity } from '../../store/entities';

/** What the chosen bearer carries: it must carry what was written, and be allowed to. */
export async function chosen(
  manager: EntityManager,
  { by, bearerId }: Pick<WrittenItem['way'], 'by' | 'bearerId'>,
  settings: Settings,
): Promise<Carriage> {
  const bearer = await manager.getRepository(BearerEntity).findOneBy({ id: bearerId });
  if (!bearer)
    throw new ProblemError(
      422,
      'no-such-bearer',
      'That bearer does not exist',
      `There is no bearer “${bearerId}” any more.`,
    );
  const carriage = carriageOf(bearer.config);
  if (carriage.what !== by)
    throw new ProblemError(
      422,
      'wrong-way',
      'That bearer does not carry it',
      `“${bearer.name}” carries ${carriage.what}, not ${by}.`,
    );
  const locks = locksOf(bearer.config.kind, settings);
  if (locks.length > 0)
    throw new ProblemError(
      409,
      'transmit-locked',
      'The transmitter is locked',
      `${locks.join(' ')} Nothing was queued; answer this in Settings and send again.`,
    );
  return carriage;
}

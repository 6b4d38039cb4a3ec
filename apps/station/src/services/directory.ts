import { checkService, type Service } from '@tombolo/core';
import { MOST_SERVICES, type KeptService } from '@tombolo/contract';
import type { DataSource, EntityManager } from 'typeorm';
import { ProblemError } from '../problem-error';
import { rowsOf, touchedBy, type Queries } from '../store/database';
import { ServiceEntity } from '../store/entities';
import { appendEvents } from '../store/events';
import { SERVICES_LOCK } from '../store/locks';

/** The services that are known, by address. */
export const listServices = (queries: Queries): Promise<KeptService[]> =>
  rowsOf<{ definition: Service; revision: number }>(
    queries,
    "select definition, revision from service order by definition->>'name', address",
  ).then((rows) => rows.map(({ definition, revision }) => ({ ...(definition as KeptService), revision })));

/** The service behind an address; null where none is known. */
export async function serviceAt(queries: Queries, address: string): Promise<Service | null> {
  const [row] = await rowsOf<{ definition: Service }>(queries, 'select definition from service where address = $1', [
    address.trim().toUpperCase(),
  ]);
  return row?.definition ?? null;
}

/** Addresses that nobody else may be called by. */
export const serviceAddresses = async (queries: Queries): Promise<ReadonlySet<string>> =>
  new Set((await rowsOf<{ address: string }>(queries, 'select address from service')).map(({ address }) => address));

/** Templates and patterns as the station can use them, or why it cannot. */
function usable(service: Service): Service {
  const checked = checkService(service);
  if (!checked.ok)
    throw new ProblemError(
      422,
      'service',
      'That service cannot be used',
      `${service.address}: ${checked.error.reason}.`,
    );
  return service;
}

async function put(manager: EntityManager, service: Service, at: Date): Promise<KeptService> {
  const [row] = await rowsOf<{ revision: number }>(
    manager,
    `insert into service (address, definition, changed_at) values ($1, $2, $3)
     on conflict (address) do update set definition = excluded.definition, revision = service.revision + 1, changed_at = excluded.changed_at
     returning revision`,
    [service.address, JSON.stringify(service), at],
  );
  return { ...(service as KeptService), revision: row!.revision };
}

async function roomLeft(manager: EntityManager): Promise<void> {
  const [row] = await rowsOf<{ n: number }>(manager, 'select count(*)::int as n from service');
  if (row!.n > MOST_SERVICES)
    throw new ProblemError(
      409,
      'directory-full',
      'The directory is full',
      `It holds at most ${MOST_SERVICES} services.`,
    );
}

/** Keeps a service under its address; of two who change it at once the second is told. */
export async function keepService(
  source: DataSource,
  address: string,
  { service, revision }: { readonly service: Service; readonly revision: number | null },
  at: Date,
): Promise<KeptService> {
  if (service.address !== address)
    throw new ProblemError(
      422,
      'other-address',
      'The addresses differ',
      `It is kept as ${address} and calls itself ${service.address}. Add it as a service of its own, and remove the other.`,
    );
  usable(service);
  return source.transaction(async (manager) => {
    await manager.query('select pg_advisory_xact_lock($1)', [SERVICES_LOCK]);
    const there = await manager.getRepository(ServiceEntity).findOneBy({ address });
    if ((there?.revision ?? null) !== revision)
      throw new ProblemError(
        409,
        'changed-meanwhile',
        there ? 'Somebody else changed it' : 'It is not there any more',
        there
          ? `${address} is not as you looked at it. Nothing was changed; look at it again.`
          : `${address} was taken off the directory meanwhile. Add it anew if it should be there.`,
      );
    const kept = await put(manager, service, at);
    if (!there) await roomLeft(manager);
    await appendEvents(manager, [{ type: 'service', data: {} }], at);
    return kept;
  });
}

/** Takes over several; all of them, or none when one cannot be used. */
export async function importServices(
  source: DataSource,
  services: readonly Service[],
  at: Date,
): Promise<KeptService[]> {
  services.forEach(usable);
  return source.transaction(async (manager) => {
    await manager.query('select pg_advisory_xact_lock($1)', [SERVICES_LOCK]);
    for (const service of services) await put(manager, service, at);
    await roomLeft(manager);
    await appendEvents(manager, [{ type: 'service', data: {} }], at);
    return listServices(manager);
  });
}

export async function removeService(source: DataSource, address: string, at: Date): Promise<void> {
  await source.transaction(async (manager) => {
    if ((await touchedBy(manager, 'delete from service where address = $1', [address])) === 0)
      throw new ProblemError(404, 'no-such-service', 'Not in the directory', `Nothing is kept under ${address}.`);
    await appendEvents(manager, [{ type: 'service', data: {} }], at);
  });
}

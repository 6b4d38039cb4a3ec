import { MOST_PEOPLE, type PeopleChange, type Person, type PersonChange } from '@tombolo/contract';
import type { DataSource, EntityManager } from 'typeorm';
import { ProblemError } from '../problem-error';
import { rowsOf, storable, touchedBy, type Queries } from '../store/database';
import { PersonAddressEntity, PersonBroughtByEntity, PersonEntity } from '../store/entities';
import { appendEvents } from '../store/events';
import { PEOPLE_LOCK } from '../store/locks';

/** Everybody on the list, in the order in which they came to it, each with all addresses. */
export const listPeople = (queries: Queries): Promise<Person[]> =>
  rowsOf<Person>(
    queries,
    `select p.id, p.name, p.licensed, p.agreement,
            coalesce(json_agg(json_build_object('sort', a.sort, 'address', a.address) order by a.n) filter (where a.n is not null), '[]') as addresses,
            (select coalesce(json_agg(json_build_object('person', b.by_id, 'aboutMin', b.about_min) order by b.n), '[]')
             from person_brought_by b where b.person_id = p.id and exists (select 1 from person o where o.id = b.by_id)) as "broughtBy"
     from person p left join person_address a on a.person_id = p.id group by p.id order by p.created_at, p.id`,
  );

/** A row where whoever signs `$1` is on the list: by name, by the tag of a node, or by a call with any SSID. */
export const LISTED = `
  select 1 from person where lower(name) = lower($1)
  union all
  select 1 from person_address where sort = 'node' and lower(address) = lower($1)
  union all
  select 1 from person_address where sort = 'call' and split_part(address, '-', 1) = split_part(upper($1), '-', 1)`;

/** Whether somebody of that name holds a licence; null when nobody of that name is on the list. */
export async function licenceOf(queries: Queries, name: string): Promise<boolean | null> {
  const [row] = await rowsOf<{ licensed: boolean }>(
    queries,
    'select licensed from person where lower(name) = lower($1)',
    [storable(name)],
  );
  return row?.licensed ?? null;
}

/** Adds somebody, or replaces what is known of them; one at a time, so that no name is there twice. */
export const keepPerson = (source: DataSource, id: string, change: PersonChange, at: Date): Promise<Person> =>
  source.transaction((manager) => keepIn(manager, id, change, at));

/** The same for several, all or none. */
export const keepPeople = (source: DataSource, { people, without }: PeopleChange, at: Date): Promise<Person[]> =>
  source.transaction(async (manager) => {
    const kept: Person[] = [];
    await manager.query('select pg_advisory_xact_lock($1)', [PEOPLE_LOCK]);
    for (const id of without) await removeIn(manager, id, at);
    for (const { id, ...change } of people) kept.push(await keepIn(manager, id, change, at));
    return kept;
  });

async function keepIn(manager: EntityManager, id: string, change: PersonChange, at: Date): Promise<Person> {
  await manager.query('select pg_advisory_xact_lock($1)', [PEOPLE_LOCK]);
  const people = await listPeople(manager);
  if (people.some((one) => one.id !== id && one.name.toLowerCase() === change.name.toLowerCase()))
    throw new ProblemError(
      409,
      'name-taken',
      'That name is on the list already',
      `There is somebody called “${change.name}” on the list. Two of one name could not be told apart.`,
    );
  const known = people.some((one) => one.id === id);
  if (!known && people.length >= MOST_PEOPLE)
    throw new ProblemError(409, 'list-full', 'The list is full', `It holds at most ${MOST_PEOPLE} people.`);
  if (change.broughtBy.some(({ person }) => person === id))
    throw new ProblemError(
      422,
      'brought-by-themselves',
      'Nobody brings something to themselves',
      `${change.name} cannot be among those who bring something to them.`,
    );
  const { name, licensed, agreement } = change;
  if (known) await manager.getRepository(PersonEntity).update({ id }, { name, licensed, agreement });
  else await manager.getRepository(PersonEntity).insert({ id, name, licensed, agreement, createdAt: at });
  const addresses = manager.getRepository(PersonAddressEntity);
  await addresses.delete({ personId: id });
  await addresses.insert(change.addresses.map((one, n) => ({ personId: id, n, ...one })));
  const brought = manager.getRepository(PersonBroughtByEntity);
  await brought.delete({ personId: id });
  await brought.insert(
    change.broughtBy.map(({ person, aboutMin }, n) => ({ personId: id, n, byId: person, aboutMin })),
  );
  await appendEvents(manager, [{ type: 'person', data: { id } }], at);
  return { id, ...change };
}

export async function removePerson(source: DataSource, id: string, at: Date): Promise<void> {
  await source.transaction(async (manager) => {
    if (!(await removeIn(manager, id, at)))
      throw new ProblemError(404, 'no-such-person', 'Not on the list', 'Nobody of that identifier is on the list.');
  });
}

/** Whether somebody was there to be removed. */
async function removeIn(manager: EntityManager, id: string, at: Date): Promise<boolean> {
  if ((await touchedBy(manager, 'delete from person where id = $1', [id])) === 0) return false;
  await appendEvents(manager, [{ type: 'person', data: { id } }], at);
  return true;
}

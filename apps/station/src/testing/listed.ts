import { randomUUID } from 'node:crypto';
import type { AddressSort, Person } from '@tombolo/contract';
import type { Api } from './harness';

/** Somebody put on the list of people; without a licence unless it is said. */
export const listPerson = (
  api: Api,
  name: string,
  addresses: Partial<Record<AddressSort, string>>,
  licensed = false,
): Promise<Person> =>
  api.put<Person>(`/people/${randomUUID()}`, {
    name,
    licensed,
    addresses: Object.entries(addresses).map(([sort, address]) => ({ sort, address })),
  });

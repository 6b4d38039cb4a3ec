import { parseNodeNumber, parseStationCall, readField } from '@tombolo/core';
import {
  ADDRESS_OF_WAY,
  addressesOf,
  boardAddress,
  INTERNET,
  type AddressSort,
  type Person,
  type PlannedWay,
  type WaysQuestion,
} from '@tombolo/contract';
import { listServices, serviceAt } from '../services/directory';
import { reachesPeople } from '../services/reaches-people';
import { rowsOf } from '../store/database';
import { boardOf } from './beyond-board';
import { BEYOND } from './by-other-ways';
import type { Holder } from './candidate';
import type { PlanningContext } from './context';

/** The addresses of somebody for a way; what was typed, where it is one itself. */
export async function addressesBy(
  { queries }: PlanningContext,
  typed: string,
  person: Person | null,
  what: keyof typeof ADDRESS_OF_WAY,
  bearerId: string,
): Promise<string[]> {
  const sort: AddressSort = ADDRESS_OF_WAY[what];
  const word = typed.trim();
  const ofPerson = person ? addressesOf(person, sort) : [];
  switch (what) {
    case 'packets':
      return ofPerson.length > 0
        ? ofPerson
        : person === null && parseStationCall(word.toUpperCase()).ok
          ? [word.toUpperCase()]
          : [];
    case 'texts': {
      const number = parseNodeNumber(word.toUpperCase());
      if (person === null && number.ok) return [number.value];
      const tags = ofPerson.length > 0 ? ofPerson : person === null ? [word.toUpperCase()] : [];
      // Of two that call themselves the same none is meant for sure.
      const rows = await rowsOf<{ node: string; tag: string }>(
        queries,
        `select node, tag from mesh_node m where bearer_id = $1 and tag = any($2)
           and 1 = (select count(*) from mesh_node o where o.bearer_id = m.bearer_id and o.tag = m.tag)`,
        [bearerId, tags],
      );
      return rows.map(({ node }) => node);
    }
    case 'messages':
      return ofPerson.length > 0 || person !== null ? ofPerson : atABoard(word);
    case 'mail':
      return ofPerson.length > 0
        ? ofPerson
        : person === null && /^[^\s@]+@[^\s@.]+(?:\.[^\s@.]+)+$/.test(word)
          ? [word]
          : [];
  }
}

/** `WHO@BOARD`, as it is typed. */
function atABoard(word: string): string[] {
  const address = boardAddress.safeParse(word);
  const board = address.success ? boardOf(address.data) : null;
  return address.success && board !== null && parseStationCall(board).ok ? [address.data] : [];
}

export interface ThroughService {
  readonly to: string;
  readonly text: string;
  readonly holder: Holder;
  readonly service: { readonly name: string; readonly command: NonNullable<PlannedWay['send']['command']> };
}

/** Services of the directory that bring a text to a phone or a mailbox of somebody. */
export async function throughServices(
  { queries, without }: PlanningContext,
  { text, to }: WaysQuestion,
  person: Person | null,
): Promise<ThroughService[]> {
  if (without.has(INTERNET)) return [];
  const services = (await listServices(queries)).flatMap(reachesPeople);
  return services.flatMap(({ service, command, field, sort }) => {
    const typed = person ? addressesOf(person, sort)[0] : to;
    const far = typed === undefined ? null : readField(sort, typed);
    if (!far?.ok) return [];
    const values = { [field]: far.value, text };
    return [
      {
        to: service.address,
        // The number or mailbox stands in front of the text.
        text: `${far.value} ${text}`,
        holder: { name: service.address, beyond: sort === 'phone' ? BEYOND.phone : BEYOND.mail },
        service: {
          name: sort === 'phone' ? 'A text to the phone' : 'One-line mail',
          command: { service: service.address, command: command.id, values },
        },
      },
    ];
  });
}

/** A service is behind a gateway: the directory says which, in its words; what it does not say is reached as it is called. */
export async function gatewayOf({ queries }: PlanningContext, address: string): Promise<string> {
  const service = await serviceAt(queries, address);
  const call = service?.reached.split(/\s+/).find((word) => /\d/.test(word) && parseStationCall(word).ok);
  return call ?? address;
}

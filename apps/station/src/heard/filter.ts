import type { HeardFilter } from '@tombolo/contract';
import { channelsOf } from '../store/channels';
import type { Queries } from '../store/database';
import { firstIdAt, lastIdAt } from '../store/moments';

/** Conditions on `packet p` that a filter puts, bearers and recordings left out; parameters are appended to the given list. */
export function packetConditions(filter: HeardFilter, parameters: unknown[]): string[] {
  const conditions: string[] = [];
  const bind = (value: unknown) => `$${parameters.push(value)}`;
  if (filter.text) {
    const pattern = bind(`%${filter.text.replace(/[\\%_]/g, '\\$&')}%`);
    // The very expression of the index `packet_words`.
    conditions.push(`(p.source || ' ' || coalesce(p.addressee, '') || ' ' || p.summary) ilike ${pattern}`);
  }
  if (filter.station) {
    const call = bind(filter.station);
    conditions.push(`(p.source = ${call} or p.addressee = ${call})`);
  }
  if (filter.kind) conditions.push(`p.kind = ${bind(filter.kind)}`);
  if (filter.from) conditions.push(`p.id >= ${bind(firstIdAt(new Date(filter.from)))}::bigint`);
  if (filter.to) conditions.push(`p.id <= ${bind(lastIdAt(new Date(filter.to)))}::bigint`);
  return conditions;
}

/** The channels of the bearer and the recording of a filter; null where it names neither. */
export async function channelsOfFilter(queries: Queries, filter: HeardFilter): Promise<number[] | null> {
  const { bearerId, importId } = filter;
  if (bearerId === undefined && importId === undefined) return null;
  // Nothing comes from both: whoever asks for both finds nothing.
  return channelsOf(queries, { bearerId, importId });
}

import type { HeardFilter } from '@tombolo/contract';

/** Where a filter looks and in what order, so that an index gives the page at once. */
export interface PacketSource {
  readonly from: string;
  readonly conditions: string;
  /** Columns of the order: time and identifier of the packet. */
  readonly at: string;
  readonly id: string;
}

/** The log's own order of what one link or one recording brought. */
const ORIGIN = { from: 'heard_on h join packet p on p.id = h.packet_id', at: 'h.first_at', id: 'h.packet_id' };
const ALL = { from: 'packet p', at: 'p.first_at', id: 'p.id' };

/** Table and conditions for a filter; parameters are appended to the given list. */
export function packetSource(filter: HeardFilter, parameters: unknown[]): PacketSource {
  const conditions = ['true'];
  const bind = (value: unknown) => `$${parameters.push(value)}`;
  const [origin, second] = [filter.importId, filter.bearerId].filter((id) => id !== undefined);
  const source = origin === undefined ? ALL : ORIGIN;
  if (origin !== undefined) conditions.push(`h.origin = ${bind(origin)}`);
  if (second !== undefined)
    conditions.push(
      `exists (select 1 from heard_on o where o.origin = ${bind(second)} and o.first_at = p.first_at and o.packet_id = p.id)`,
    );
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
  if (filter.from) conditions.push(`${source.at} >= ${bind(new Date(filter.from))}`);
  if (filter.to) conditions.push(`${source.at} <= ${bind(new Date(filter.to))}`);
  return { ...source, conditions: conditions.join(' and ') };
}

/** A place in a list sorted by time and id, newest first. */
export interface PageKey {
  readonly at: Date;
  readonly id: string;
}

export const formatPageKey = ({ at, id }: PageKey): string => `${at.getTime()}:${id}`;

/** Inverse of `formatPageKey`; the form was checked by the schema. */
export function parsePageKey(text: string): PageKey {
  const [ms = '0', id = '0'] = text.split(':');
  return { at: new Date(Number(ms)), id };
}

import type { HeardFilter } from '@tombolo/contract';

/** Conditions on `packet p` for a filter; parameters are appended to the given list. */
export function packetConditions(filter: HeardFilter, parameters: unknown[]): string {
  const conditions = ['true'];
  const bind = (value: unknown) => `$${parameters.push(value)}`;
  if (filter.text) {
    const pattern = bind(`%${filter.text.replace(/[\\%_]/g, '\\$&')}%`);
    conditions.push(`(p.summary ilike ${pattern} or p.source ilike ${pattern} or p.addressee ilike ${pattern})`);
  }
  if (filter.station) {
    const call = bind(filter.station);
    conditions.push(`(p.source = ${call} or p.addressee = ${call})`);
  }
  if (filter.kind) conditions.push(`p.kind = ${bind(filter.kind)}`);
  if (filter.from) conditions.push(`p.first_at >= ${bind(new Date(filter.from))}`);
  if (filter.to) conditions.push(`p.first_at <= ${bind(new Date(filter.to))}`);
  if (filter.bearerId)
    conditions.push(
      `exists (select 1 from reception r where r.packet_id = p.id and r.bearer_id = ${bind(filter.bearerId)})`,
    );
  if (filter.importId)
    conditions.push(
      `exists (select 1 from reception r where r.packet_id = p.id and r.import_id = ${bind(filter.importId)}::uuid)`,
    );
  return conditions.join(' and ');
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

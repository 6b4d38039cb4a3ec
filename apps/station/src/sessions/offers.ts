import { connectionSeconds } from '@tombolo/core';
import type { OfferView } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { rowsOf, storable, type Queries } from '../store/database';
import { appendEvents } from '../store/events';

export type Offer = Omit<OfferView, 'bearerId' | 'seenAt' | 'gone' | 'itemId' | 'expectedS'>;

/** Keeps what a board or gateway listed. With `whole` what it does not list any more is marked as gone. */
export async function keepOffers(
  source: DataSource,
  bearerId: string,
  offers: readonly Offer[],
  whole: boolean,
  at: Date,
): Promise<void> {
  await source.transaction(async (manager) => {
    if (whole)
      await manager.query('update offer set gone = true where bearer_id = $1 and key <> all($2)', [
        bearerId,
        offers.map((offer) => offer.key),
      ]);
    for (const offer of offers)
      await manager.query(
        `insert into offer (bearer_id, key, number, kind, octets, sender, addressee, at, subject, seen_at)
         values ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10)
         on conflict (bearer_id, key) do update set number = $3, octets = $5, gone = false`,
        [
          bearerId,
          storable(offer.key),
          storable(offer.number),
          offer.kind,
          offer.octets,
          storable(offer.from),
          storable(offer.to),
          storable(offer.at),
          storable(offer.subject),
          at,
        ],
      );
    await appendEvents(manager, [{ type: 'offer', data: { bearerId } }], at);
  });
}

export const offerTaken = (queries: Queries, bearerId: string, key: string, itemId: string): Promise<unknown> =>
  queries.query('update offer set item_id = $3 where bearer_id = $1 and key = $2', [bearerId, storable(key), itemId]);

export async function listOffers(queries: Queries, bearerId: string): Promise<OfferView[]> {
  const rows = await rowsOf<{
    key: string;
    number: string;
    kind: OfferView['kind'];
    octets: number;
    sender: string;
    addressee: string;
    at: string;
    subject: string;
    seen_at: Date;
    gone: boolean;
    item_id: string | null;
    digipeaters: number;
  }>(
    queries,
    `select offer.*, coalesce(jsonb_array_length(bearer.config->'path'), 0) as digipeaters
     from offer left join bearer on bearer.id = offer.bearer_id
     where bearer_id = $1 order by seen_at desc, number desc limit 200`,
    [bearerId],
  );
  return rows.map((row) => ({
    bearerId,
    key: row.key,
    number: row.number,
    kind: row.kind,
    octets: row.octets,
    from: row.sender,
    to: row.addressee,
    at: row.at,
    subject: row.subject,
    seenAt: row.seen_at.toISOString(),
    gone: row.gone,
    itemId: row.item_id,
    expectedS: connectionSeconds(row.octets, row.digipeaters),
  }));
}

import { checkRelay, octetsOfText, parseStationCall, type RelayVerdict } from '@tombolo/core';
import { bearerKind, carriageOf, type RelayProposal } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { licenceOf } from '../people/people';
import type { PlanningContext } from '../planning/context';
import { plannedCrossing } from '../planning/one-bearer';
import { rowsOf, type Queries } from '../store/database';
import { held, waysOn, type Held, type Way } from './ways';

const RECENT = '10 minutes';

/** Whether an item may be handed on a way; the first rule that forbids it is named. */
export async function verdict(
  queries: Queries,
  { item, legs, cameBy }: Held,
  way: Pick<Way, 'bearer' | 'to' | 'text' | 'detail'>,
  released: boolean,
): Promise<RelayVerdict> {
  const [recent] = await rowsOf<{ n: string }>(
    queries,
    `select count(*) as n from leg where bearer_id = $1 and to_call = $2 and detail ? 'relay' and created_at > now() - interval '${RECENT}'`,
    [way.bearer.id, way.to],
  );
  const answering = item.answers !== null;
  return checkRelay({
    toAmateurBand: bearerKind(way.bearer.config.kind).amateurBand,
    target: way.detail.node ?? way.to,
    text: way.text,
    senderLicensed:
      (cameBy ? bearerKind(cameBy.config.kind).sendersLicensed : true) &&
      parseStationCall(item.sender).ok &&
      (await licenceOf(queries, item.sender)) !== false,
    undecipherable: item.undecipherable,
    // An answer goes back to where the question came from: that is no loop.
    trace: answering ? [] : item.trace,
    passedTo: legs
      .filter((leg) => leg.detail?.relay && leg.bearerId === way.bearer.id)
      .map((leg) => leg.detail?.node ?? leg.toCall),
    recentToTarget: Number(recent?.n ?? 0),
    released,
  });
}

/** What goes to everybody on a channel reaches nobody in particular. */
const isForAll = ({ bearer, detail }: Way): boolean =>
  carriageOf(bearer.config).what === 'texts' && detail.node === undefined;

/** What can be done with an arrived item, what each way needs or is refused for, and how surely it would get there. */
export async function proposeRelays(
  source: DataSource,
  id: string,
  planning: () => Promise<PlanningContext>,
  only?: Pick<RelayProposal, 'bearerId' | 'to'>,
): Promise<RelayProposal[]> {
  const holding = await held(source, id);
  // What cannot be foretold can be handed on all the same: by the usual path, and no chance is told.
  const context = await planning().catch(() => null);
  const ways = (await waysOn(source, holding)).filter(
    ({ bearer, to }) => !only || (bearer.id === only.bearerId && to === only.to),
  );
  return Promise.all(
    ways.map(async (way): Promise<RelayProposal> => {
      const unreleased = await verdict(source, holding, way, false);
      const released = await verdict(source, holding, way, true);
      return {
        words: way.words,
        bearerId: way.bearer.id,
        to: way.to,
        person: way.person,
        text: way.text,
        octets: octetsOfText(way.text).length,
        most: way.most,
        needsRelease: !unreleased.allowed && released.allowed,
        refused: released.allowed ? null : released.words,
        reason: way.reason,
        planned:
          context && released.allowed && !isForAll(way)
            ? await plannedCrossing(context, {
                bearerId: way.bearer.id,
                address: way.detail.node ?? way.to,
                text: way.text,
                times: context.settings.retry.tries,
              }).catch(() => null)
            : null,
      };
    }),
  );
}

import {
  octetsOfText,
  packetIdentity,
  packetStatements,
  parseMonitorLine,
  type Claim,
  type Evidence,
} from '@tombolo/core';
import type { ItemDetail, PacketDetail } from '@tombolo/contract';
import type { Happened, WorldRecord } from './record';

/** A statement of the station that did not happen, or one that it could have made and did not. */
export interface Untruth {
  readonly claim: string;
  readonly where: string;
}

export interface Tally {
  claims: number;
  readonly untruths: Untruth[];
}

export const check = (tally: Tally, holds: boolean, claim: string, where: string): void => {
  tally.claims++;
  if (!holds && tally.untruths.length < 50) tally.untruths.push({ claim, where });
};

/** What stands for a transmitter in claims: the call that an originator put on the packet, the radio's own for all others. */
const underCall = (record: WorldRecord, one: Happened): string =>
  record.originOf(one).by === one.by ? one.packet.source : one.by;

/** Whether a claim about the path of a transmission is what happened on its way. */
export function happened(record: WorldRecord, claim: Claim, heard: Happened): boolean {
  const chain = record.before(heard);
  const origin = record.originOf(heard);
  const repeats = chain.filter((one) => one.by !== origin.by);
  const signed = (one: Happened) => one.packet.path.some(({ call }) => call === one.by);
  switch (claim.is) {
    case 'passed on':
      return claim.by === null ? repeats.some((one) => !signed(one)) : repeats.some((one) => one.by === claim.by);
    case 'received from':
      return claim.station === null
        ? heard.by !== origin.by && !signed(heard)
        : underCall(record, heard) === claim.station;
    case 'heard':
      return chain.some((one) => underCall(record, one) === claim.from && one.receivedBy.includes(claim.by));
    case 'hops':
      return repeats.length >= claim.atLeast;
    case 'still open':
      return claim.elements.every((word) => heard.packet.path.some(({ call, used }) => call === word && !used));
    case 'answered':
      return repeats.some((one) => one.by === claim.by);
    // What is claimed is that the packet says so.
    case 'by internet':
      return /[,}](?:TCPIP|TCPXX|qA[A-Za-z])\*?[,:]/.test(heard.line);
  }
}

/** Everything on the air that carried the packets of an item, as its own records of what was handed over tell them. */
export function transmissionsOf(record: WorldRecord, item: ItemDetail): readonly Happened[] {
  const identities = new Set<string>();
  for (const { kind, raw } of item.evidence) {
    if (kind !== 'intended' || raw === null) continue;
    const packet = parseMonitorLine(octetsOfText(raw), { escapes: true });
    if (packet.ok) identities.add(packetIdentity(packet.value));
  }
  return [...identities].flatMap((identity) => record.of(identity));
}

/** What the station says of the paths of a packet that our radio heard. */
export function comparePacket(
  tally: Tally,
  record: WorldRecord,
  packet: PacketDetail,
  own: string,
  radio: string,
): void {
  for (const copy of packet.copies) {
    if (copy.bearerId !== radio) continue;
    const heard = record.transmissionOf(copy.line, own, Date.parse(copy.at));
    check(tally, heard !== undefined, `a copy that was on the air`, copy.line);
    if (!heard) continue;
    // The claims behind the words; that a word is certain is what the station says.
    const claims = new Map(
      packetStatements(heard.packet, { receiver: own, isStation: () => false }).map(({ words, claim }) => [
        words,
        claim,
      ]),
    );
    for (const { words, certain } of copy.statements) {
      if (!certain) continue;
      const claim = claims.get(words);
      check(tally, claim !== undefined && happened(record, claim, heard), words, copy.line);
    }
  }
}

/** The evidence and the words of one item against the world. `own` is our call, `radio` our bearer. */
export function compareItem(tally: Tally, record: WorldRecord, item: ItemDetail, own: string, radio: string): void {
  if (item.direction !== 'out') return;
  const where = `${item.addressee} “${item.body.slice(0, 20)}”`;
  const transmissions = item.legs
    .filter((leg) => leg.role === 'convey' && leg.bearerId === radio)
    .flatMap((leg) => item.evidence.filter((one) => one.legId === leg.id && one.kind === 'sent'));
  const seenOnAir = transmissionsOf(record, item);
  const ours = seenOnAir.filter((one) => one.by === own);
  const bySomebody = (one: Evidence) => {
    const at = Date.parse(one.at);
    return seenOnAir.some(
      (seen) => seen.by !== own && seen.endedAtMs <= at + 30_000 && (one.by === null || seen.by === one.by),
    );
  };
  for (const one of item.evidence) {
    if (one.kind === 'relayed' && one.road?.how !== 'internet')
      check(tally, bySomebody(one), `relayed by ${one.by}`, where);
    if (one.kind === 'relayed')
      for (const hop of one.road?.hops ?? [])
        if (hop.certain && hop.call !== null)
          check(
            tally,
            seenOnAir.some((seen) => seen.by === hop.call),
            `carried by ${hop.call}`,
            where,
          );
    if (one.kind === 'delivered' || one.kind === 'refused') {
      // Anybody may use any call: what is claimed is that it was said in that name, to us, about a text that had gone out.
      const word = one.kind === 'delivered' ? 'ack' : 'rej';
      const said = record.withInfo(`:${own.padEnd(9)}:${word}${item.number}`);
      const at = Date.parse(one.at);
      const inName =
        said.some((seen) => seen.packet.source === one.by && seen.endedAtMs <= at + 30_000) ||
        (one.raw !== null && one.raw.includes(`${word}${item.number}`) && one.by === item.addressee) ||
        // A reply-ack rides on a text.
        (one.raw !== null && one.raw.endsWith(`}${item.number}`));
      check(tally, inName, `${one.kind} in the name of ${one.by}`, where);
      check(
        tally,
        ours.some((seen) => seen.endedAtMs <= at + 30_000),
        `${one.kind} after it went out`,
        where,
      );
    }
  }
  const { rung } = item.status;
  if (item.legs.some((leg) => leg.bearerId === radio) && rung !== 'queued' && rung !== 'drafted')
    // What was handed to the modem is on the air a little later, when the channel is clear. A station that was killed between handing over and
    // writing that down has no record of it; that it was on the air is what counts then.
    check(tally, transmissions.length > 0 || ours.length > 0, `${rung}: handed to the modem`, where);
  check(
    tally,
    item.status.proof === null || item.evidence.some((one) => one.id === item.status.proof!.id),
    `${rung} has its proof`,
    where,
  );
  for (const [i, strip] of (item.causeway?.strips ?? []).entries()) {
    const cited = item.evidence.filter((one) => strip.evidence.includes(one.id));
    const stone = item.causeway!.stones[i + 1]!;
    check(tally, cited.length === strip.evidence.length, `strip to ${stone.label} cites what is on record`, where);
    if (strip.state === 'heard' && !strip.inferred)
      check(
        tally,
        stone.known
          ? seenOnAir.some((seen) => seen.by === stone.label)
          : seenOnAir.some((seen) => seen.by !== own && !seen.packet.path.some(({ call }) => call === seen.by)),
        `strip to ${stone.label} is heard repeated`,
        where,
      );
    if (strip.state === 'acknowledged' || strip.state === 'accepted')
      check(
        tally,
        cited.some(({ kind }) => kind !== 'sent'),
        `strip to ${stone.label} has a proof`,
        where,
      );
    if (strip.state === 'planned') check(tally, cited.length === 0, `strip to ${stone.label} claims nothing`, where);
  }
}

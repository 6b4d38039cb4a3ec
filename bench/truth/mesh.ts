import {
  channelMark,
  decodeMeshContent,
  decodeMeshFrame,
  DUTY_WINDOW_MS,
  encodeMeshContent,
  encodeMeshFrame,
  meshAirTimeMs,
  octetsOfHex,
  openPayload,
  type MeshContent,
  type MeshFrame,
} from '@tombolo/core';
import type { BearerView, ItemDetail, MeshNodeView } from '@tombolo/contract';
import { MESH_RADIO, meshNodes, OPEN_CHANNEL, RELIEF_CHANNEL } from '@tombolo/scenario';
import type { MeshAir } from '../../packages/stand-ins/src/mesh/air';
import { joinMesh } from '../../packages/stand-ins/src/mesh/node';
import type { World } from '../../packages/stand-ins/src/sim/world';
import { check, type Tally } from './compare';

const OWN = meshNodes.school.node;
/** The clocks of a paced world and of a station move in steps. */
const STEP_MS = 30_000;

/**
 * At the far edge of the hour the account is not held to what was on the air: a second of a busy machine between what a station gives and
 * what its node takes is a minute here. Whatever it forgets of the rest is found all the same.
 */
const EDGE_MS = 5 * 60_000;

/** One transmission of a node as it happened. */
export interface MeshHappened {
  readonly by: string;
  readonly frame: MeshFrame;
  readonly content: MeshContent | null;
  readonly octets: Uint8Array;
  readonly receivedBy: readonly string[];
  readonly endedAtMs: number;
}

export interface MeshRecord {
  note(by: string, octets: Uint8Array, receivedBy: readonly string[], endedAtMs: number): void;
  /** All transmissions of a packet, whoever made them. */
  of(sender: string, number: string): readonly MeshHappened[];
  from(sender: string): readonly MeshHappened[];
  by(node: string): readonly MeshHappened[];
}

const RELIEF_KEY = new Uint8Array(Buffer.from(RELIEF_CHANNEL.key, 'base64'));

/** What a frame says to somebody who holds the keys of the district. */
function contentOf(frame: MeshFrame): MeshContent | null {
  const opened = frame.sealed ? openPayload(frame.body, RELIEF_KEY, frame) : null;
  const content = decodeMeshContent(opened ? (opened.ok ? opened.value : new Uint8Array()) : frame.body);
  return content.ok ? content.value : null;
}

export function createMeshRecord(): MeshRecord {
  const all: MeshHappened[] = [];
  return {
    note(by, octets, receivedBy, endedAtMs) {
      const frame = decodeMeshFrame(octets);
      if (frame.ok)
        all.push({ by, frame: frame.value, content: contentOf(frame.value), octets, receivedBy, endedAtMs });
    },
    of: (sender, number) => all.filter(({ frame }) => frame.sender === sender && frame.number === number),
    from: (sender) => all.filter(({ frame }) => frame.sender === sender),
    by: (node) => all.filter((one) => one.by === node),
  };
}

/** The frame in a line of the record. */
function frameOf(raw: string | null): { readonly frame: MeshFrame; readonly octets: Uint8Array } | null {
  const octets = raw === null ? undefined : octetsOfHex(raw.slice(raw.lastIndexOf(' ') + 1));
  const frame = octets ? decodeMeshFrame(octets) : null;
  return frame?.ok ? { frame: frame.value, octets: octets! } : null;
}

/** Packet numbers that an item went out under, as its own record of what was handed over tells them. */
const numbersOf = (item: ItemDetail): string[] =>
  item.evidence.flatMap(({ kind, raw }) => (kind === 'intended' ? (frameOf(raw)?.frame.number ?? []) : []));

/** The evidence and the words of an item of the mesh against what the air of the mesh saw. */
export function compareMeshItem(tally: Tally, record: MeshRecord, item: ItemDetail): void {
  const where = `${item.direction} ${item.sender} “${item.body.slice(0, 20)}”`;
  const received = (raw: string | null, atMs: number) => {
    const told = frameOf(raw);
    return (
      told &&
      record
        .of(told.frame.sender, told.frame.number)
        .find(
          (one) =>
            Buffer.compare(one.octets, told.octets) === 0 &&
            one.receivedBy.includes(OWN) &&
            one.endedAtMs <= atMs + STEP_MS,
        )
    );
  };
  const numbers = numbersOf(item);
  for (const one of item.evidence) {
    const atMs = Date.parse(one.at);
    if (one.kind === 'relayed') {
      const heard = received(one.raw, atMs);
      check(tally, heard !== undefined && heard !== null, 'a repeat that was on the air', where);
      if (!heard) continue;
      check(tally, heard.by !== OWN && numbers.includes(heard.frame.number), 'repeated by another node', where);
      // So many others must have repeated it, one after the other, for this copy to be.
      const others = record
        .of(OWN, heard.frame.number)
        .filter(({ by, endedAtMs }) => by !== OWN && endedAtMs <= heard.endedAtMs);
      check(tally, others.length >= (one.road?.hops.length ?? 0), `${one.road?.hops.length} hops`, where);
    }
    if (one.kind === 'delivered') {
      const heard = received(one.raw, atMs);
      check(tally, heard !== undefined && heard !== null, `${item.direction}: a frame that we heard`, where);
      if (!heard) continue;
      if (item.direction === 'in') {
        check(
          tally,
          heard.content?.kind === 'text' && heard.content.text === item.body,
          'the text that was sent',
          where,
        );
        const hops = (item.causeway?.stones.length ?? 2) - 2;
        check(tally, hops >= heard.frame.hops, `${hops} stones between`, where);
      } else {
        const { content } = heard;
        check(
          tally,
          content?.kind === 'acknowledgement' && numbers.includes(content.of),
          'acknowledges this text',
          where,
        );
        check(
          tally,
          record.by(OWN).some((sent) => numbers.includes(sent.frame.number) && sent.endedAtMs <= heard.endedAtMs),
          'acknowledged after it went out',
          where,
        );
      }
    }
  }
  for (const [i, strip] of (item.causeway?.strips ?? []).entries()) {
    const cited = item.evidence.filter((one) => strip.evidence.includes(one.id));
    const { label } = item.causeway!.stones[i + 1]!;
    if (strip.state === 'heard')
      check(
        tally,
        cited.some(({ kind }) => kind === 'relayed'),
        `strip to ${label} is heard repeated`,
        where,
      );
    if (strip.state === 'acknowledged' || strip.state === 'accepted')
      check(
        tally,
        cited.some(({ kind }) => kind !== 'sent'),
        `strip to ${label} has a proof`,
        where,
      );
    if (strip.state === 'planned') check(tally, cited.length === 0, `strip to ${label} claims nothing`, where);
  }
}

/** What the list of nodes claims. */
export function compareMesh(tally: Tally, record: MeshRecord, nodes: readonly MeshNodeView[]): void {
  for (const { node, tag, hops, snrDb } of nodes) {
    if (hops === null) continue;
    const heard = record.from(node).filter(({ receivedBy }) => receivedBy.includes(OWN));
    check(
      tally,
      heard.some(({ frame }) => frame.hops === hops),
      `${tag} was heard over ${hops} hops`,
      node,
    );
    check(tally, snrDb === null || (snrDb >= -20 && snrDb <= 12), `SNR ${snrDb}`, node);
    if (tag !== node)
      check(
        tally,
        heard.some(({ content }) => content?.kind === 'announcement' && content.tag === tag),
        `calls itself ${tag}`,
        node,
      );
  }
}

/**
 * How long our node was on the air in the hour before `nowMs`, as far as the steps of the clocks let it be said: what ended until `untilMs`,
 * since the rest may not be accounted for yet.
 */
const onAirInHourMs = (record: MeshRecord, nowMs: number, untilMs: number): number =>
  record
    .by(OWN)
    .filter(({ endedAtMs }) => endedAtMs > nowMs - DUTY_WINDOW_MS + EDGE_MS && endedAtMs < untilMs - STEP_MS)
    .reduce((sum, { octets }) => sum + meshAirTimeMs(octets.length, MESH_RADIO), 0);

/** The account of the hour, held against what was on the air; what is counted last at either end of the hour is said with it. */
export function accountOf(
  duty: BearerView['duty'],
  record: MeshRecord,
  nowMs: number,
  untilMs: number,
): { claim: string; holds: boolean } {
  const onAirMs = onAirInHourMs(record, nowMs, untilMs);
  const ages = record
    .by(OWN)
    .filter(({ endedAtMs }) => endedAtMs > nowMs - DUTY_WINDOW_MS && endedAtMs < untilMs)
    .map(({ endedAtMs, content }) => `${content?.kind ?? 'sealed'} ${Math.round((nowMs - endedAtMs) / 1000)} s ago`);
  return {
    claim: `${duty?.usedMs ?? 'no'} ms of the hour, on the air ${onAirMs}; ${ages.slice(0, 3).join(', ')} … ${ages.slice(-3).join(', ')}`,
    holds: duty !== null && duty.usedMs >= Math.floor(onAirMs),
  };
}

/** What our node received about our texts, and the station does not show. */
export function silentOnMesh(
  record: MeshRecord,
  items: readonly ItemDetail[],
  heardBy: (atMs: number) => boolean,
): string[] {
  const missing: string[] = [];
  for (const item of items) {
    const numbers = numbersOf(item);
    const heard = numbers.flatMap((number) =>
      record
        .of(OWN, number)
        .filter(({ by, receivedBy, endedAtMs }) => by !== OWN && receivedBy.includes(OWN) && heardBy(endedAtMs)),
    );
    if (heard.length > 0 && !item.evidence.some(({ kind }) => kind === 'relayed'))
      missing.push(`repeated on the mesh: ${item.body}`);
    const to = item.evidence.find(({ kind }) => kind === 'intended');
    const addressee = frameOf(to?.raw ?? null)?.frame.addressee;
    const acknowledged =
      addressee !== undefined &&
      record
        .from(addressee)
        .some(
          ({ content, receivedBy, endedAtMs }) =>
            content?.kind === 'acknowledgement' &&
            numbers.includes(content.of) &&
            receivedBy.includes(OWN) &&
            heardBy(endedAtMs),
        );
    if (acknowledged && !item.evidence.some(({ kind }) => kind === 'delivered'))
      missing.push(`acknowledged on the mesh: ${item.body}`);
  }
  return missing;
}

/** A node that lies beside the school: acknowledges what was not received, and repeats our packets with other words. */
export function runMeshLiar(world: World, air: MeshAir, heard: () => readonly MeshHappened[]): void {
  const chance = world.random('mesh liar');
  const { school, farm, clinic } = meshNodes;
  const port = joinMesh(world, air, { ...school, node: '0BAD-0001', tag: 'NOBODY', carrier: true });
  port.configure({ ...port.setup(), mark: null });
  const lie = () => {
    const last = heard().at(-1);
    const honest = channelMark(OPEN_CHANNEL.name, null);
    const as = chance() < 0.5 ? farm.node : clinic.node;
    const head = { sealed: false, mark: honest, addressee: OWN, hopsLeft: 2, hops: Math.floor(3 * chance()) };
    const number = Math.floor(chance() * 0xffffffff)
      .toString(16)
      .padStart(8, '0');
    const of = last && chance() < 0.5 ? last.frame.number : '0badcafe';
    const ack = encodeMeshFrame({
      ...head,
      sender: as,
      number,
      body: encodeMeshContent({ kind: 'acknowledgement', of }),
    });
    if (ack.ok && chance() < 0.5) port.send(ack.value);
    // Under our own number, as if somebody had repeated it, but other words.
    const text = encodeMeshContent({ kind: 'text', n: '01', text: 'All is well' });
    const other = last && encodeMeshFrame({ ...last.frame, hopsLeft: 2, hops: 1, body: text });
    if (other?.ok && chance() < 0.5) port.send(other.value);
    world.after((3 + 4 * chance()) * 60_000, lie);
  };
  world.after(5 * 60_000, lie);
}

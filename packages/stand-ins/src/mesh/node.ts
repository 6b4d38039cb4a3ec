import {
  channelMark,
  decodeMeshFrame,
  dutyFreeAtMs,
  dutyRuleOf,
  encodeMeshContent,
  encodeMeshFrame,
  ENOUGH_REPEATS,
  EVERYBODY,
  floodSlot,
  floodSlotMs,
  meshAirTimeMs,
  MESH_MOST_WAIT_MS,
  repeatedFrame,
  type AirSpent,
  type MeshRadio,
} from '@tombolo/core';
import { MESH_RADIO, OPEN_CHANNEL, type DistrictNode } from '@tombolo/scenario';
import type { World } from '../sim/world';
import type { MeshAir, MeshAntenna } from './air';

export interface MeshReception {
  readonly frame: Uint8Array;
  readonly snrDb: number;
  readonly rssiDbm: number;
}

/** What a node is on the air for. */
export type MeshCause = 'given' | 'repeat' | 'announcement';
export interface MeshTransmission {
  readonly frame: Uint8Array;
  readonly cause: MeshCause;
  readonly ms: number;
}

/** How a node is set. */
export interface MeshSetup {
  /** It hears, and transmits nothing. */
  readonly silent: boolean;
  readonly tag: string;
  readonly name: string;
  readonly carrier: boolean;
  readonly announceMin: number;
  readonly hopLimit: number;
  /** Channel of its announcements; null for a node that keeps silent about itself. */
  readonly mark: string | null;
  /** Null: its transmitter is blocked. */
  readonly radio: MeshRadio | null;
}

export interface MeshPort {
  readonly node: string;
  setup(): MeshSetup;
  configure(setup: MeshSetup): void;
  /** Transmits a frame as soon as the channel is clear; false when the hour's air time does not allow it. */
  send(frame: Uint8Array): boolean;
  /** Tells who it is. */
  announce(): void;
  onFrame(listener: (reception: MeshReception) => void): void;
  onTransmitted(listener: (transmission: MeshTransmission) => void): void;
}

const MOST_SEEN = 4000;
/** What a receiver of these reports at most and at least, however strong or weak it is. (Common practice, no source.) */
const reportedSnrDb = (db: number): number => Math.round(10 * Math.min(12, Math.max(-20, db))) / 10;
const noiseDbm = ({ bandwidthHz }: MeshRadio): number => -174 + 10 * Math.log10(bandwidthHz) + 6;

/** A node as docs/mesh.md describes it: floods in slots by its role, keeps to its share of the hour, announces itself. */
export function joinMesh(world: World, air: MeshAir, of: DistrictNode): MeshPort {
  const chance = world.random(`mesh node/${of.tag}`);
  const frameListeners: ((reception: MeshReception) => void)[] = [];
  const transmissionListeners: ((transmission: MeshTransmission) => void)[] = [];
  /** Packets that it has seen: how far the first copy had come, and how many others took it further since. */
  const seen = new Map<string, { hops: number; others: number }>();
  let spent: AirSpent[] = [];
  let setup: MeshSetup = {
    silent: false,
    tag: of.tag,
    name: of.name,
    carrier: of.carrier,
    announceMin: 20,
    hopLimit: 4,
    mark: channelMark(OPEN_CHANNEL.name, null),
    radio: MESH_RADIO,
  };
  const radioNow = (): MeshRadio => setup.radio ?? MESH_RADIO;

  const see = (key: string, hops = 0) => {
    const entry = { hops, others: 0 };
    seen.set(key, entry);
    if (seen.size > MOST_SEEN) seen.delete(seen.keys().next().value!);
    return entry;
  };
  const fits = (frame: Uint8Array): boolean => {
    const { radio, silent } = setup;
    if (!radio || silent) return false;
    const now = world.now();
    spent = spent.filter(({ atMs }) => atMs > now - 3_600_000);
    const rule = dutyRuleOf(radio.frequencyHz, radio.bandwidthHz);
    return dutyFreeAtMs(spent, rule, meshAirTimeMs(frame.length, radio), now) === now;
  };

  /** Acts after so much time with a clear channel: what passes while it is taken does not count. */
  const afterClear = (ms: number, act: () => void, wanted: () => boolean, sinceMs = world.now()): void => {
    const begin = Math.max(world.now(), air.takenUntilMs(antenna));
    world.after(begin + ms - world.now(), () => {
      if (!wanted() || world.now() - sinceMs > MESH_MOST_WAIT_MS) return;
      const taken = air.takenMs(antenna, begin);
      if (taken > 0 || air.takenUntilMs(antenna) > world.now()) afterClear(taken, act, wanted, sinceMs);
      else act();
    });
  };
  const transmit = (frame: Uint8Array, cause: MeshCause, slot: number, wanted: () => boolean = () => true) =>
    afterClear(
      slot * floodSlotMs(radioNow()),
      () => {
        if (!fits(frame)) return;
        const ms = air.transmit(antenna, frame);
        spent.push({ atMs: world.now(), ms });
        for (const tell of transmissionListeners) tell({ frame, cause, ms });
      },
      wanted,
    );

  const receive = (octets: Uint8Array, powerDbm: number) => {
    const decoded = decodeMeshFrame(octets);
    if (!decoded.ok) return;
    const frame = decoded.value;
    const key = `${frame.sender}/${frame.number}`;
    const reception = {
      frame: octets,
      snrDb: reportedSnrDb(powerDbm - noiseDbm(radioNow())),
      rssiDbm: Math.round(powerDbm),
    };
    const before = seen.get(key);
    if (before) {
      if (frame.hops > before.hops) before.others++;
      // The sender hears its own packet repeated.
      if (frame.sender === of.node) for (const tell of frameListeners) tell(reception);
      return;
    }
    const entry = see(key, frame.hops);
    for (const tell of frameListeners) tell(reception);
    const next = repeatedFrame(octets);
    if (!next || frame.addressee === of.node) return;
    transmit(next, 'repeat', floodSlot(setup.carrier, chance()), () => entry.others < ENOUGH_REPEATS);
  };

  const antenna: MeshAntenna = {
    node: of.node,
    position: of.position,
    heightM: of.heightM,
    radio: radioNow,
    receive,
  };
  air.add(antenna);

  const announce = () => {
    if (setup.mark === null) return;
    const number = Math.floor(chance() * 0xffffffff)
      .toString(16)
      .padStart(8, '0');
    const frame = encodeMeshFrame({
      sealed: false,
      mark: setup.mark,
      sender: of.node,
      addressee: EVERYBODY,
      number,
      hopsLeft: setup.hopLimit,
      hops: 0,
      body: encodeMeshContent({
        kind: 'announcement',
        tag: setup.tag,
        name: setup.name,
        carrier: setup.carrier,
        position: of.position,
        batteryPercent: of.batteryPercent,
      }),
    });
    if (!frame.ok) return;
    see(`${of.node}/${number}`);
    transmit(frame.value, 'announcement', floodSlot(true, chance()));
  };
  const announceAlways = () => {
    announce();
    world.after(setup.announceMin * 60_000 * (0.9 + 0.2 * chance()), announceAlways);
  };
  world.after(60_000 * chance(), announceAlways);

  return {
    node: of.node,
    setup: () => setup,
    configure: (wanted) => void (setup = wanted),
    announce,
    onFrame: (listener) => void frameListeners.push(listener),
    onTransmitted: (listener) => void transmissionListeners.push(listener),
    send(frame) {
      if (!fits(frame)) return false;
      const decoded = decodeMeshFrame(frame);
      if (!decoded.ok) return false;
      see(`${decoded.value.sender}/${decoded.value.number}`);
      transmit(frame, 'given', floodSlot(true, chance()));
      return true;
    },
  };
}

import {
  bearingBetween,
  loraSensitivityDbm,
  meshAirTimeMs,
  receivedPowerDbm,
  sameMeshRadio,
  type MeshRadio,
  type Position,
} from '@tombolo/core';
import type { World } from '../sim/world';

/** What a node has on the air: where it is, how it is set, and what it does with what it hears. */
export interface MeshAntenna {
  readonly node: string;
  readonly position: Position;
  readonly heightM: number;
  readonly radio: () => MeshRadio;
  readonly receive: (octets: Uint8Array, powerDbm: number) => void;
}

export interface MeshAir {
  add(antenna: MeshAntenna): void;
  /** Puts a frame on the air; gives how long it lasts, ms. */
  transmit(from: MeshAntenna, octets: Uint8Array): number;
  /** Until when an antenna hears the channel taken; now or earlier when it is clear. */
  takenUntilMs(antenna: MeshAntenna): number;
  /** How much of the time since `sinceMs` it heard the channel taken, ms. */
  takenMs(antenna: MeshAntenna, sinceMs: number): number;
  transmissions(): number;
  /** Tells what happened, whoever claims what in it: which node transmitted, and who received it. */
  onTransmission(listener: (by: string, octets: Uint8Array, receivedBy: readonly string[]) => void): void;
}

const POWER_W = 0.1;
const CAPTURE_DB = 6;
/** What ended longer ago takes part in nothing any more. */
const RECENT_MS = 30_000;

interface Active {
  readonly from: MeshAntenna;
  readonly radio: MeshRadio;
  readonly startMs: number;
  readonly endMs: number;
}

/** LoRa as it goes: reach by distance, height and a screen, time on air, losses, collisions; who is set otherwise hears nothing. */
export function createMeshAir(world: World, screenDb: (a: string, b: string) => number): MeshAir {
  const antennas: MeshAntenna[] = [];
  const chance = world.random('mesh');
  let recent: Active[] = [];
  let transmissions = 0;
  const listeners: ((by: string, octets: Uint8Array, receivedBy: readonly string[]) => void)[] = [];

  // Nodes stand still: each pair is worked out once.
  const powers = new Map<MeshAntenna, Map<MeshAntenna, number>>();
  const powerBetween = (from: MeshAntenna, to: MeshAntenna): number => {
    let row = powers.get(from);
    if (!row) powers.set(from, (row = new Map()));
    let power = row.get(to);
    if (power === undefined) row.set(to, (power = pathPower(from, to)));
    return power;
  };
  const pathPower = (from: MeshAntenna, to: MeshAntenna) =>
    receivedPowerDbm(
      { heightM: from.heightM, powerW: POWER_W, gainDbi: 2, clutterDb: 0 },
      { heightM: to.heightM, powerW: POWER_W, gainDbi: 2, clutterDb: 0 },
      bearingBetween(from.position, to.position).distanceKm,
      from.radio().frequencyHz / 1e6,
    ) - screenDb(from.node, to.node);
  /** Another setting is neither read nor noticed. */
  const reaches = (active: Active, to: MeshAntenna): boolean =>
    active.from === to ||
    (sameMeshRadio(active.radio, to.radio()) && powerBetween(active.from, to) > loraSensitivityDbm(active.radio));

  const deliver = (active: Active, octets: Uint8Array) => {
    const sensitivity = loraSensitivityDbm(active.radio);
    const receivers: [MeshAntenna, number][] = [];
    for (const antenna of antennas) {
      if (antenna === active.from || !reaches(active, antenna)) continue;
      const power = powerBetween(active.from, antenna);
      const jammed = recent.some(
        (other) =>
          other !== active &&
          other.startMs < active.endMs &&
          other.endMs > active.startMs &&
          reaches(other, antenna) &&
          (other.from === antenna || powerBetween(other.from, antenna) > power - CAPTURE_DB),
      );
      if (jammed || chance() > 1 - 0.4 * Math.exp((sensitivity - power) / 3)) continue;
      receivers.push([antenna, power]);
    }
    const receivedBy = receivers.map(([{ node }]) => node);
    for (const tell of listeners) tell(active.from.node, octets, receivedBy);
    for (const [antenna, power] of receivers) antenna.receive(octets, power);
  };

  return {
    add: (antenna) => void antennas.push(antenna),
    transmit(from, octets) {
      transmissions++;
      const now = world.now();
      const durationMs = meshAirTimeMs(octets.length, from.radio());
      const active = { from, radio: from.radio(), startMs: now, endMs: now + durationMs };
      recent = [...recent.filter((other) => other.endMs > now - RECENT_MS), active];
      world.after(durationMs, () => deliver(active, octets));
      return durationMs;
    },
    takenUntilMs: (antenna) =>
      recent.reduce((until, active) => (reaches(active, antenna) ? Math.max(until, active.endMs) : until), 0),
    takenMs(antenna, sinceMs) {
      const now = world.now();
      const spans = recent
        .filter((active) => active.endMs > sinceMs && reaches(active, antenna))
        .map((active): [number, number] => [Math.max(sinceMs, active.startMs), Math.min(now, active.endMs)])
        .sort(([a], [b]) => a - b);
      let taken = 0;
      let covered = sinceMs;
      for (const [from, to] of spans) {
        taken += Math.max(0, to - Math.max(from, covered));
        covered = Math.max(covered, to);
      }
      return taken;
    },
    transmissions: () => transmissions,
    onTransmission: (listener) => void listeners.push(listener),
  };
}

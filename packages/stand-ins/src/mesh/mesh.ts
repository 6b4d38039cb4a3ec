import {
  bearingBetween,
  loraAirTimeMs,
  loraSensitivityDbm,
  MESH_OVERHEAD_OCTETS,
  MESH_SETTING,
  receivedPowerDbm,
  type Position,
} from '@tombolo/core';
import type { World } from '../sim/world';

/** A packet of the simulated mesh. */
export interface MeshPacket {
  readonly id: string;
  readonly from: string;
  readonly to: string;
  readonly channel: string;
  readonly body: unknown;
  readonly sealed: string | null;
  readonly hopLimit: number;
  readonly hops: number;
  /** Who transmitted this copy; null for the sender itself. */
  readonly relay: string | null;
}

export interface MeshNode {
  readonly node: string;
  readonly position: Position;
  readonly heightM: number;
  readonly router: boolean;
}

export interface MeshReception {
  readonly packet: MeshPacket;
  readonly snrDb: number;
  readonly rssiDbm: number;
}

export interface MeshAir {
  join(node: MeshNode): MeshPort;
  readonly transmissions: () => number;
}

export interface MeshPort {
  readonly node: string;
  send(packet: Omit<MeshPacket, 'hops' | 'relay'>): void;
  onPacket(listener: (reception: MeshReception) => void): void;
}

const MHZ = 868;
const POWER_W = 0.1;
const NOISE_DBM = -174 + 10 * Math.log10(MESH_SETTING.bandwidthHz) + 6;
const CAPTURE_DB = 6;
/** What a receiver of these reports at most and at least, however strong or weak it is. (Common practice, no source.) */
const reportedSnrDb = (db: number): number => Math.round(10 * Math.min(12, Math.max(-20, db))) / 10;
/** A repeater waits longer, the better it heard: whoever is further out goes first. */
const WAIT_MS = { least: 200, most: 2200 };

/** Longest wait for a clear channel, ms. */
const MOST_WAIT_MS = 15_000;

interface Active {
  readonly from: string;
  readonly startMs: number;
  readonly endMs: number;
  readonly powerAt: (node: MeshNode) => number;
}

/** LoRa on one frequency: reach by distance, height and a screen, time on air, losses, flooding with a hop limit. */
export function createMeshAir(world: World, screenDb: (a: string, b: string) => number): MeshAir {
  const nodes: { node: MeshNode; receive: (packet: MeshPacket, powerDbm: number) => void }[] = [];
  const chance = world.random('mesh');
  let recent: Active[] = [];
  let transmissions = 0;
  const sensitivity = loraSensitivityDbm(MESH_SETTING);

  // Nodes stand still: each pair is worked out once.
  const powers = new Map<MeshNode, Map<MeshNode, number>>();
  const powerBetween = (from: MeshNode, to: MeshNode): number => {
    let row = powers.get(from);
    if (!row) powers.set(from, (row = new Map()));
    let power = row.get(to);
    if (power === undefined) row.set(to, (power = pathPower(from, to)));
    return power;
  };
  const pathPower = (from: MeshNode, to: MeshNode) =>
    receivedPowerDbm(
      { heightM: from.heightM, powerW: POWER_W, gainDbi: 2, clutterDb: 0 },
      { heightM: to.heightM, powerW: POWER_W, gainDbi: 2, clutterDb: 0 },
      bearingBetween(from.position, to.position).distanceKm,
      MHZ,
    ) - screenDb(from.node, to.node);

  /** Transmits when the channel is clear; what waits too long is of no use any more. `wanted` tells whether it still is. */
  const transmit = (
    from: MeshNode,
    packet: MeshPacket,
    wanted: () => boolean = () => true,
    sinceMs: number = world.now(),
  ) => {
    if (!wanted() || world.now() - sinceMs > MOST_WAIT_MS) return;
    const octets = MESH_OVERHEAD_OCTETS + JSON.stringify(packet.body ?? packet.sealed).length / 2;
    const durationMs = loraAirTimeMs(Math.min(255, Math.ceil(octets)), MESH_SETTING);
    const busy = recent.find((other) => other.endMs > world.now() && other.powerAt(from) > sensitivity);
    if (busy) {
      world.after(busy.endMs - world.now() + 50 + 400 * chance(), () => transmit(from, packet, wanted, sinceMs));
      return;
    }
    transmissions++;
    const now = world.now();
    const active: Active = {
      from: from.node,
      startMs: now,
      endMs: now + durationMs,
      powerAt: (to) => powerBetween(from, to),
    };
    recent = [...recent.filter((other) => other.endMs > now - 3000), active];
    world.after(durationMs, () => {
      for (const { node, receive } of nodes) {
        if (node.node === from.node) continue;
        const power = active.powerAt(node);
        const margin = power - sensitivity;
        if (margin < 0) continue;
        const jammed = recent.some(
          (other) =>
            other !== active &&
            other.startMs < active.endMs &&
            other.endMs > active.startMs &&
            (other.from === node.node || other.powerAt(node) > power - CAPTURE_DB),
        );
        if (jammed || chance() > 1 - 0.4 * Math.exp(-margin / 3)) continue;
        receive({ ...packet, relay: packet.hops === 0 ? null : from.node }, power);
      }
    });
  };

  return {
    transmissions: () => transmissions,
    join(node) {
      const listeners: ((reception: MeshReception) => void)[] = [];
      const seen = new Map<string, { cancel: (() => void) | null }>();
      const receive = (packet: MeshPacket, powerDbm: number) => {
        const key = `${packet.from}/${packet.id}`;
        const snrDb = reportedSnrDb(powerDbm - NOISE_DBM);
        const before = seen.get(key);
        if (before) {
          // Somebody else repeated it: ours is not needed, unless this is a router.
          if (!node.router) before.cancel?.();
          // The sender hears its own packet repeated.
          if (packet.from === node.node)
            for (const tell of listeners) tell({ packet, snrDb, rssiDbm: Math.round(powerDbm) });
          return;
        }
        const entry: { cancel: (() => void) | null } = { cancel: null };
        seen.set(key, entry);
        for (const tell of listeners) tell({ packet, snrDb, rssiDbm: Math.round(powerDbm) });
        if (packet.hopLimit <= 0 || packet.to === node.node) return;
        const strength = Math.min(1, Math.max(0, (powerDbm - sensitivity) / 40));
        const waitMs =
          WAIT_MS.least +
          (WAIT_MS.most - WAIT_MS.least) * (node.router ? 0.2 : 0.4 + 0.6 * strength) * (0.7 + 0.3 * chance());
        let wanted = true;
        entry.cancel = () => (wanted = false);
        world.after(waitMs, () =>
          transmit(
            node,
            { ...packet, hopLimit: packet.hopLimit - 1, hops: packet.hops + 1, relay: node.node },
            () => wanted,
          ),
        );
      };
      nodes.push({ node, receive });
      return {
        node: node.node,
        onPacket: (listener) => void listeners.push(listener),
        send(packet) {
          seen.set(`${packet.from}/${packet.id}`, { cancel: null });
          transmit(node, { ...packet, hops: 0, relay: null });
        },
      };
    },
  };
}

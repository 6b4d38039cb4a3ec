import { airTimeMs, bearingBetween, receivedPowerDbm, type Position, type RadioSite } from '@tombolo/core';
import type { World } from '../sim/world';

export interface ChannelStation {
  readonly call: string;
  position: Position;
  readonly site: RadioSite;
  readonly noiseDb: number;
}

export interface ChannelOptions {
  readonly frequencyMHz: number;
  readonly baud: number;
  /** Ground between two stations, dB. */
  readonly screenDb: (from: string, to: string) => number;
}

/** Weakest signal that a quiet receiver makes packets of, dBm; what lies above by a few dB is heard mostly. */
const SENSITIVITY_DBM = -112;
const CARRIER_DBM = -115;
/** A signal this much stronger than another is received in spite of it (FM capture). */
const CAPTURE_DB = 8;

export interface Radio {
  readonly station: ChannelStation;
  /** Puts a frame (without FCS) into the queue; it goes out when the channel is clear. */
  send(frame: Uint8Array, options?: { weakerDb?: number }): void;
  onFrame(listener: (frame: Uint8Array) => void): void;
  readonly settings: { txDelayMs: number; txTailMs: number; persistence: number; slotMs: number };
  /** A radio that is switched off neither hears nor sends. */
  on: boolean;
}

interface Transmission {
  readonly from: Radio;
  readonly startAt: number;
  readonly endAt: number;
  readonly frame: Uint8Array;
  readonly weakerDb: number;
}

export interface Channel {
  join(station: ChannelStation): Radio;
  /** Called for each transmission as it ends, with who received it. */
  onTransmission(listener: (from: string, frame: Uint8Array, receivedBy: readonly string[]) => void): void;
}

/** One shared FM channel: reach by distance and height, carrier sense with p-persistence, collisions, capture. */
export function createChannel(world: World, options: ChannelOptions): Channel {
  const radios: Radio[] = [];
  const active = new Set<Transmission>();
  let recent: Transmission[] = [];
  const chance = world.random('reception');
  const observers: ((from: string, frame: Uint8Array, receivedBy: readonly string[]) => void)[] = [];

  const powerAt = (to: Radio, transmission: Transmission): number =>
    receivedPowerDbm(
      transmission.from.station.site,
      to.station.site,
      bearingBetween(transmission.from.station.position, to.station.position).distanceKm,
      options.frequencyMHz,
    ) -
    transmission.weakerDb -
    options.screenDb(transmission.from.station.call, to.station.call);

  const busyFor = (radio: Radio): boolean => {
    for (const transmission of active) {
      if (transmission.from === radio) return true;
      if (powerAt(radio, transmission) > CARRIER_DBM) return true;
    }
    return false;
  };

  const receives = (radio: Radio, transmission: Transmission): boolean => {
    if (!radio.on || radio === transmission.from) return false;
    const power = powerAt(radio, transmission);
    const margin = power - (SENSITIVITY_DBM + radio.station.noiseDb);
    if (margin < 0) return false;
    for (const other of recent) {
      if (other === transmission) continue;
      const overlaps = other.startAt < transmission.endAt && other.endAt > transmission.startAt;
      if (!overlaps) continue;
      if (other.from === radio) return false;
      const interference = powerAt(radio, other);
      if (interference > CARRIER_DBM && interference > power - CAPTURE_DB) return false;
    }
    // From half at the edge to nearly always ten dB above it.
    return chance() < 1 - 0.5 * Math.exp(-margin / 2.5);
  };

  const transmit = (radio: Radio, frame: Uint8Array, weakerDb: number, done: () => void) => {
    const { txDelayMs, txTailMs } = radio.settings;
    const duration = airTimeMs(frame, { baud: options.baud, txDelayMs, txTailMs });
    const startAt = world.now();
    const transmission: Transmission = { from: radio, startAt, endAt: startAt + duration, frame, weakerDb };
    active.add(transmission);
    recent.push(transmission);
    world.after(duration, () => {
      active.delete(transmission);
      const hearing = radios.filter((candidate) => receives(candidate, transmission));
      recent = recent.filter((other) => active.has(other) || other.endAt > transmission.startAt);
      for (const hearer of hearing) for (const listener of listenersOf.get(hearer)!) listener(frame);
      for (const observe of observers)
        observe(
          radio.station.call,
          frame,
          hearing.map((hearer) => hearer.station.call),
        );
      done();
    });
  };

  const listenersOf = new Map<Radio, ((frame: Uint8Array) => void)[]>();

  return {
    onTransmission: (listener) => void observers.push(listener),
    join(station) {
      const queue: { frame: Uint8Array; weakerDb: number }[] = [];
      const dice = world.random(`csma/${station.call}`);
      let working = false;
      const attempt = () => {
        const next = queue[0];
        if (!next || !radio.on) {
          working = false;
          if (!radio.on) queue.length = 0;
          return;
        }
        if (busyFor(radio) || dice() >= radio.settings.persistence) {
          world.after(radio.settings.slotMs, attempt);
          return;
        }
        queue.shift();
        transmit(radio, next.frame, next.weakerDb, () => world.after(radio.settings.slotMs, attempt));
      };
      const radio: Radio = {
        station,
        on: true,
        settings: { txDelayMs: 300, txTailMs: 20, persistence: 0.25, slotMs: 100 },
        send(frame, { weakerDb = 0 } = {}) {
          queue.push({ frame, weakerDb });
          if (working) return;
          working = true;
          world.after(0, attempt);
        },
        onFrame: (listener) => void listenersOf.get(radio)!.push(listener),
      };
      radios.push(radio);
      listenersOf.set(radio, []);
      return radio;
    },
  };
}

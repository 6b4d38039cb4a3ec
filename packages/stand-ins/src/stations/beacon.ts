import { encodeUncompressedPosition, type PositionToSend } from '@tombolo/core';
import type { Radio } from '../radio/channel';
import type { World } from '../sim/world';
import { packetFrom, sendPacket } from './packets';

export interface BeaconOptions {
  readonly everyS: number;
  readonly path: readonly string[];
  /** Whether the station takes messages: `=` or `!`. */
  readonly messaging: boolean;
  readonly report: () => Omit<PositionToSend, 'latitude' | 'longitude'>;
}

/** Sends the station's position again and again, each time a little off the beat. */
export function runBeacon(world: World, radio: Radio, options: BeaconOptions): void {
  const chance = world.random(`beacon/${radio.station.call}`);
  const send = () => {
    const text = encodeUncompressedPosition({ ...radio.station.position, ...options.report() });
    sendPacket(radio, packetFrom(radio.station.call, options.path, (options.messaging ? '=' : '!') + text));
    world.after(1000 * options.everyS * (0.9 + 0.2 * chance()), send);
  };
  world.after(1000 * options.everyS * chance(), send);
}

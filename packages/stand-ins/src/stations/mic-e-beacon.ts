import { encodeMicE, type MicEToSend } from '@tombolo/core';
import type { Radio } from '../radio/channel';
import type { World } from '../sim/world';
import { packetFrom, sendPacket } from './packets';

export interface MicEBeaconOptions {
  readonly everyS: number;
  readonly path: readonly string[];
  readonly report: () => Omit<MicEToSend, 'latitude' | 'longitude'>;
}

/** Sends the station's position in the short form of vehicle radios. */
export function runMicEBeacon(world: World, radio: Radio, { everyS, path, report }: MicEBeaconOptions): void {
  const chance = world.random(`beacon/${radio.station.call}`);
  const send = () => {
    const { destination, info } = encodeMicE({ ...radio.station.position, ...report() });
    sendPacket(radio, { ...packetFrom(radio.station.call, path, info), destination });
    world.after(1000 * everyS * (0.9 + 0.2 * chance()), send);
  };
  world.after(1000 * everyS * chance(), send);
}

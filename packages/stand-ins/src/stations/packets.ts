import { decodeFrame, encodeFrame, frameOfPacket, octetsOfText, packetOfFrame, type Packet } from '@tombolo/core';
import type { Radio } from '../radio/channel';

/** Packets in and out of a radio; what is no packet is not for these stations. */
export function onPacket(radio: Radio, listener: (packet: Packet) => void): void {
  radio.onFrame((octets) => {
    const frame = decodeFrame(octets);
    if (!frame.ok) return;
    const packet = packetOfFrame(frame.value);
    if (packet.ok) listener(packet.value);
  });
}

export function sendPacket(radio: Radio, packet: Packet, options?: { weakerDb?: number }): void {
  const frame = frameOfPacket(packet);
  const octets = frame.ok ? encodeFrame(frame.value) : frame;
  if (!octets.ok) throw new Error(`a stand-in made a packet that cannot be sent: ${octets.error.reason}`);
  radio.send(octets.value, options);
}

/** Destination of the stand-ins: the generic one. */
export const GENERIC_DESTINATION = 'APRS';

export const packetFrom = (source: string, path: readonly string[], info: Uint8Array | string): Packet => ({
  source,
  destination: GENERIC_DESTINATION,
  path: path.map((call) => ({ call, used: false })),
  info: typeof info === 'string' ? octetsOfText(info) : info,
});

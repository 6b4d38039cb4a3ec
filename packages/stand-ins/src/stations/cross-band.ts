import { encodeUncompressedPosition, formatMonitorLine, joinOctets, octetsOfText } from '@tombolo/core';
import { FARM_TRACTOR } from '@tombolo/scenario';
import type { Radio } from '../radio/channel';
import type { World } from '../sim/world';
import { GENERIC_DESTINATION, packetFrom, sendPacket } from './packets';

const EVERY_S = 900;

/**
 * Passes on what it hears on its other band: wrapped, as the Protocol Reference has it for packets of another network (ch. 17), its own
 * call last in the header inside. No internet is on the way.
 */
export function runCrossBand(world: World, radio: Radio): void {
  const { call } = radio.station;
  const chance = world.random('cross-band');
  const { position, symbol } = FARM_TRACTOR;
  const again = () => {
    const metres = () => (chance() - 0.5) * 0.004;
    const report = encodeUncompressedPosition({
      latitude: position.latitude + metres(),
      longitude: position.longitude + metres(),
      symbol,
      comment: 'Tractor with the water cart',
    });
    const inner = formatMonitorLine(
      {
        source: FARM_TRACTOR.call,
        destination: GENERIC_DESTINATION,
        path: [{ call, used: true }],
        info: octetsOfText(`!${report}`),
      },
      { escapes: false },
    );
    sendPacket(radio, packetFrom(call, ['WIDE1-1'], joinOctets([octetsOfText('}'), inner])));
    world.after(1000 * EVERY_S * (0.9 + 0.2 * chance()), again);
  };
  world.after(1000 * EVERY_S * chance(), again);
}

import { formatMonitorLine, type Packet } from '@tombolo/core';
import type { Radio } from '../radio/channel';
import { onPacket } from './packets';

/** What a gateway puts on the internet side: the packet as heard, how it came (qAR) and the gateway's own call. */
export const gatedLine = (packet: Packet, gateway: string): Uint8Array =>
  formatMonitorLine(
    {
      ...packet,
      path: [...packet.path, { call: 'qAR', used: false }, { call: gateway, used: false }],
    },
    { escapes: false },
  );

/** Passes what it hears to its feed; packets that ask to stay on radio stay there. */
export function runGateway(radio: Radio, publish: (line: Uint8Array) => void): void {
  onPacket(radio, (packet) => {
    const staysOnRadio = packet.path.some(({ call }) => call === 'NOGATE' || call === 'RFONLY' || call === 'TCPIP');
    // A line end inside would make two lines of one packet.
    if (staysOnRadio || packet.info[0] === 0x7d || packet.info.includes(0x0a) || packet.info.includes(0x0d)) return;
    publish(gatedLine(packet, radio.station.call));
  });
}

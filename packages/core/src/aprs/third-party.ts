import { parseMonitorLine } from './monitor';
import type { Packet } from './packet';

/** Packets wrapped deeper than this are not unpacked further. */
export const MAX_NESTING = 3;
const WRAPPED = 0x7d;

/**
 * A packet and what it wraps, the outermost first: third-party headers (Protocol Reference 1.0.1, ch. 17) taken off one by one, at
 * most `MAX_NESTING` of them.
 */
export function innermostLayers(packet: Packet): readonly Packet[] {
  const layers = [packet];
  for (let inner = packet; layers.length <= MAX_NESTING && inner.info[0] === WRAPPED;) {
    const next = parseMonitorLine(inner.info.subarray(1), { escapes: false });
    if (!next.ok) break;
    inner = next.value;
    layers.push(inner);
  }
  return layers;
}

/** The packet that was first sent: third-party wrappings are taken off. `wrapped` counts them. */
export function innermostPacket(packet: Packet): { packet: Packet; wrapped: number } {
  if (packet.info[0] !== WRAPPED) return { packet, wrapped: 0 };
  const layers = innermostLayers(packet);
  return { packet: layers.at(-1)!, wrapped: layers.length - 1 };
}

/**
 * Whether every wrapping names the gateway that made it, as the standard asks: the wrapper's own call is the last used element of the
 * header inside. Of a packet that was not wrapped it is true.
 */
export function wrappedProperly(packet: Packet): boolean {
  const layers = innermostLayers(packet);
  return layers.every((layer, i) => {
    const inner = layers[i + 1];
    if (!inner) return true;
    const last = inner.path.filter((hop) => hop.used).at(-1);
    return last !== undefined && last.call === layer.source;
  });
}

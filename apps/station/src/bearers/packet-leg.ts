import {
  decodeFrame,
  encodeFrame,
  fail,
  formatMonitorLine,
  frameOfPacket,
  frameToSend,
  ok,
  packetOfFrame,
  textOfOctets,
  type Parsed,
} from '@tombolo/core';
import { identityDigest } from '../ingest/understand';
import type { LegDetail } from '../store/entities';
import type { Bearer, OutgoingLeg } from '../transmissions/bearer';

/** A leg as a UI frame; the same at each try. */
export const encodePacketLeg: NonNullable<Bearer['encode']> = (leg) => {
  const frame = leg.detail?.repeats
    ? repeatedFrame(leg, leg.detail.repeats)
    : frameToSend(leg.fromCall, leg.path, leg.info);
  if (!frame.ok) return frame;
  const decoded = decodeFrame(frame.value);
  const packet = decoded.ok ? packetOfFrame(decoded.value) : decoded;
  if (!packet.ok) return fail(packet.error.at, `own frame cannot be read back: ${packet.error.reason}`);
  return ok({
    frame: frame.value,
    line: textOfOctets(formatMonitorLine(packet.value, { escapes: true })),
    identity: identityDigest(packet.value),
  });
};

/** A packet of somebody else as it goes on: whose it is, and to what, stays as it was. */
function repeatedFrame(
  { fromCall, info }: OutgoingLeg,
  { destination, path }: NonNullable<LegDetail['repeats']>,
): Parsed<Uint8Array> {
  const frame = frameOfPacket({ source: fromCall, destination, path, info });
  return frame.ok ? encodeFrame(frame.value) : frame;
}

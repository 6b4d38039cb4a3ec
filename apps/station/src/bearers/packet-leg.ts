import { decodeFrame, fail, formatMonitorLine, frameToSend, ok, packetOfFrame, textOfOctets } from '@tombolo/core';
import { identityDigest } from '../ingest/understand';
import type { Bearer } from '../transmissions/bearer';

/** A leg as a UI frame; the same at each try. */
export const encodePacketLeg: NonNullable<Bearer['encode']> = (leg) => {
  const frame = frameToSend(leg.fromCall, leg.path, leg.info);
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

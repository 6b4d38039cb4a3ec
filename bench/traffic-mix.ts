import { encodeFrame, frameOfPacket, octetsOfText, parseMonitorLine } from '@tombolo/core';

/**
 * A mix of what a channel carries: texts, acknowledgements, positions in both forms, over one or two digipeaters. `n`
 * makes each one different; every third is a copy of the one before over another path.
 */
export function mixedLine(n: number): string {
  const call = `QT${n % 10}${String.fromCharCode(65 + (n % 26))}${String.fromCharCode(65 + ((n >> 3) % 26))}`;
  const minutes = (n % 60).toString().padStart(2, '0');
  const kind = n % 4;
  const info =
    kind === 0
      ? `:QT1NC    :Item ${n} for the shelter{${(n % 1296).toString(36).toUpperCase()}`
      : kind === 1
        ? `!41${minutes}.00N/043${minutes}.00W-Number ${n}`
        : kind === 2
          ? `:QT2AR-7  :ack${(n % 1296).toString(36).toUpperCase()}}${n % 97}`
          : `=/5L!!<*e7>7P[${n}`;
  return `${call}>APRS,QT0BR-1,QT0TH-3*:${info}`;
}

export function mixedFrame(n: number): Uint8Array {
  const copy = n % 3 === 2;
  const line = mixedLine(copy ? n - 1 : n);
  const packet = parseMonitorLine(octetsOfText(copy ? line.replace('QT0BR-1,QT0TH-3*', 'QT0BR-1*') : line), {
    escapes: true,
  });
  const frame = packet.ok ? frameOfPacket(packet.value) : packet;
  const octets = frame.ok ? encodeFrame(frame.value) : frame;
  if (!octets.ok) throw new Error(octets.error.reason);
  return octets.value;
}

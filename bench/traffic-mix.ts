import {
  encodeFrame,
  encodeMicE,
  encodeNmea,
  formatMonitorLine,
  frameOfPacket,
  octetsOfText,
  parseMonitorLine,
  textOfOctets,
} from '@tombolo/core';

const two = (n: number) => String(n % 60).padStart(2, '0');
const number = (n: number) => (n % 1296).toString(36).toUpperCase();
/** Scattered over an area, so that stations are not all on one spot. */
const place = (n: number) => `41${two(n)}.${two(n * 7)}N/043${two(n * 3)}.${two(n * 11)}W`;

interface Mixed {
  readonly info: string;
  readonly destination?: string;
}

/** Twenty packets as a busy channel carries them: mostly positions in three forms, then texts, weather, telemetry and the rest. */
const MIX: readonly ((n: number) => Mixed)[] = [
  (n) => ({ info: `!${place(n)}-Number ${n}` }),
  (n) => ({
    info: `=${place(n)}>${String((n % 360) + 1).padStart(3, '0')}/036On the road ${n}/A=000${100 + (n % 900)}`,
  }),
  (n) => ({ info: `@${two(n % 28).replace('00', '01')}${two(n % 24)}${two(n)}z${place(n)}#PHG5132 ${n}` }),
  (n) => ({ info: `=/5L!!<*e7>7P[${n}` }),
  (n) => ({ info: `!/5L!!<*e7${'k>j['[n % 4]}{?!${n}` }),
  micE,
  micE,
  micE,
  micE,
  (n) => ({ info: `:QT1NC    :Item ${n} for the shelter{${number(n)}` }),
  (n) => ({ info: `:QT2AR-7  :ack${number(n)}}${n % 97}` }),
  (n) => ({ info: `:BLN1     :Bulletin number ${n % 9}` }),
  (n) => ({ info: `!${place(n)}_045/0${two(n)}g0${two(n + 3)}t0${two(n)}r001p012P008h84b0${9900 + (n % 99)}${n}` }),
  (n) => ({ info: `_1009${two(n % 24)}${two(n)}c220s004g005t077r000p000P000h50b09900w${n}` }),
  (n) => ({
    info: `T#${String(n % 1000).padStart(3, '0')},199,000,255,${String(n % 256).padStart(3, '0')},123,01101001${n}`,
  }),
  (n) => ({ info: `;OBJ${String(n % 500).padEnd(6)}*251405z${place(n)}r146.940MHz T100 -060 ${n}` }),
  (n) => ({ info: `)ITEM${n % 300}!${place(n)}A${n}` }),
  (n) => ({ info: `>On duty number ${n}` }),
  (n) => ({ info: `}QT1ZZ>APRS,TCPIP,QT1GW-10*:>Passed on ${n}` }),
  (n) => ({
    info: encodeNmea(`GPRMC,14${two(n)}${two(n + 1)},A,41${two(n)}.4302,N,04326.3721,W,${n % 90}.0,89.3,251126,,`),
  }),
];

function micE(n: number): Mixed {
  const { destination, info } = encodeMicE({
    latitude: 41 + (n % 600) / 600,
    longitude: -43 - (n % 500) / 500,
    symbol: { table: '/', code: '>' },
    message: n % 2 ? 'En Route' : 'In Service',
    courseDeg: (n % 360) + 1,
    speedKnots: n % 70,
    altitudeM: n % 300,
    comment: `Car ${n}`,
  });
  return { info: textOfOctets(info), destination };
}

/**
 * Monitor text of the nth packet of the mix, over one or two digipeaters. `n` makes each one different; every third frame is a copy
 * of the one before over another path (see `mixedFrame`).
 */
export function mixedLine(n: number, call = callOf(n)): string {
  const { info, destination = 'APRS' } = MIX[n % MIX.length]!(n);
  const path = ['QT0BR-1', 'QT0TH-3'].map((hop) => ({ call: hop, used: true }));
  const packet = { source: call, destination, path, info: octetsOfText(info) };
  return textOfOctets(formatMonitorLine(packet, { escapes: true }));
}

const callOf = (n: number) =>
  `QT${n % 10}${String.fromCharCode(65 + (n % 26))}${String.fromCharCode(65 + ((n >> 3) % 26))}`;

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

import {
  encodeFrame,
  encodeKiss,
  frameOfPacket,
  judgeLine,
  judgementWords,
  latin1OfOctets,
  nmeaChecksum,
  octetsOfText,
  parseMonitorLine,
  SPEED_ORDER,
} from '@tombolo/core';
import { readAtSpeed } from './uart';

const sentence = (body: string) => `$${body}*${nmeaChecksum(body).toString(16).toUpperCase().padStart(2, '0')}\r\n`;
/** Two seconds of a receiver. */
const RECEIVER = octetsOfText(
  [
    'GPRMC,081530.00,A,4116.140,N,04317.100,W,0.1,88.0,271126,,,A',
    'GPGGA,081530.00,4116.140,N,04317.100,W,1,08,1.0,12.0,M,50.0,M,,',
    'GPRMC,081531.00,A,4116.141,N,04317.101,W,0.2,89.0,271126,,,A',
  ]
    .map(sentence)
    .join(''),
);
const frame = (line: string) => {
  const packet = parseMonitorLine(octetsOfText(line), { escapes: false });
  const made = packet.ok ? frameOfPacket(packet.value) : packet;
  const octets = made.ok ? encodeFrame(made.value) : made;
  if (!octets.ok) throw new Error(octets.error.reason);
  return encodeKiss(octets.value);
};
const MODEM = Uint8Array.from([...frame('QT1NC>APRS:>Net control'), ...frame('QT0TH-3>APRS:>Tarn Head')]);

describe('a serial line by what comes in', () => {
  it.each(SPEED_ORDER.position)('is that of a receiver at its own speed alone, with the port at %d Bd', (speed) => {
    for (const talks of [4800, 9600, 38_400]) {
      const judged = judgeLine(readAtSpeed(RECEIVER, talks, speed), 'position');
      expect([talks, judged.verdict === 'right']).toEqual([talks, talks === speed]);
    }
  });

  it.each(SPEED_ORDER.modem)('is that of a modem at its own speed alone, with the port at %d Bd', (speed) => {
    for (const talks of [1200, 9600, 57_600])
      expect([talks, judgeLine(readAtSpeed(MODEM, talks, speed), 'modem').verdict === 'right']).toEqual([
        talks,
        talks === speed,
      ]);
  });

  it('takes a sentence with a wrong checksum for none', () => {
    const wrong = octetsOfText('$GPRMC,081530.00,A,4116.140,N,04317.100,W,0.1,88.0,271126,,,A*00\r\n');
    expect(judgeLine(wrong, 'position')).toMatchObject({ sentences: 0, verdict: 'unknown' });
  });

  it('sees a modem that waits for commands: the speed is right, the mode is not', () =>
    expect(judgeLine(octetsOfText('ready\r\ncommand: \r\n'), 'modem')).toMatchObject({ verdict: 'right', frames: 0 }));

  it('says nothing of silence, nor of a few octets', () => {
    expect(judgeLine(new Uint8Array(0), 'modem').verdict).toBe('unknown');
    expect(judgeLine(Uint8Array.of(0xff, 0x80), 'position').verdict).toBe('unknown');
  });

  it('is described as it was judged', () => {
    const at = (speed: number) =>
      judgementWords(speed, 2, 'position', judgeLine(readAtSpeed(RECEIVER, 4800, speed), 'position'));
    expect(at(4800)).toBe(`at 4800 Bd 3 good sentences in 2 s and ${RECEIVER.length} octets`);
    expect(at(9600)).toMatch(/^at 9600 Bd no good sentence in 2 s and \d+ % of the octets outside the set$/);
    expect(judgementWords(1200, 2, 'modem', judgeLine(new Uint8Array(0), 'modem'))).toBe('at 1200 Bd nothing in 2 s');
  });

  it('is read by a port as a line of 8N1: at half the speed of the sender a letter is not a letter', () => {
    // By hand, 0x55 on the line, each bit twice as long as the port's: 00 11 00 11 00 11 00 11 00 11, then rest. The port takes a start bit and
    // 0 1 1 0 0 1 1 0, from the least significant on; the next edge is in the seventh bit: 0 1 1 0 0 1 1 and the rest.
    expect([...readAtSpeed(Uint8Array.of(0x55), 4800, 9600)]).toEqual([0x66, 0xe6]);
    expect(latin1OfOctets(readAtSpeed(octetsOfText('abc'), 4800, 4800))).toBe('abc');
  });
});

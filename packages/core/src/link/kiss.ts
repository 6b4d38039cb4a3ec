import { joinOctets } from '../octets';

/** Chepponis & Karn, "The KISS TNC: A simple Host-to-TNC communications protocol", 1987. */
export const FEND = 0xc0;
export const FESC = 0xdb;
export const TFEND = 0xdc;
export const TFESC = 0xdd;

/** Command codes in the low nibble of the type octet. */
export const KISS_COMMANDS = {
  data: 0,
  txDelay: 1,
  persistence: 2,
  slotTime: 3,
  txTail: 4,
  fullDuplex: 5,
  setHardware: 6,
  /** Data with a number of two octets, which the modem sends back when the frame was sent. (Common practice, from memory; not in the paper.) */
  confirm: 12,
  return: 15,
} as const;

export interface KissFrame {
  readonly kind: 'frame';
  /** Modem port, 0–15. */
  readonly port: number;
  readonly command: number;
  readonly data: Uint8Array;
  /** Escapes that were followed by neither TFEND nor TFESC; such an octet is skipped. */
  readonly badEscapes: number;
}

/** Octets that belong to no frame. Nothing is dropped silently. */
export interface KissGarbage {
  readonly kind: 'garbage';
  readonly octets: Uint8Array;
  readonly reason: string;
}

/** Wraps data in one KISS frame for a port (0–15). */
export function encodeKiss(data: Uint8Array, port = 0, command = 0): Uint8Array {
  let escapes = 0;
  const type = ((port & 0x0f) << 4) | (command & 0x0f);
  const needsEscape = (octet: number) => octet === FEND || octet === FESC;
  for (const octet of data) if (needsEscape(octet)) escapes++;
  if (needsEscape(type)) escapes++;
  const out = new Uint8Array(data.length + escapes + 3);
  let at = 0;
  const put = (octet: number) => {
    if (octet === FEND) {
      out[at++] = FESC;
      out[at++] = TFEND;
    } else if (octet === FESC) {
      out[at++] = FESC;
      out[at++] = TFESC;
    } else {
      out[at++] = octet;
    }
  };
  out[at++] = FEND;
  put(type);
  for (const octet of data) put(octet);
  out[at] = FEND;
  return out;
}

/** A KISS parameter command, e.g. TXDELAY in units of 10 ms. */
export const encodeKissParameter = (
  parameter: Exclude<keyof typeof KISS_COMMANDS, 'data' | 'confirm'>,
  value: number,
  port = 0,
): Uint8Array => encodeKiss(Uint8Array.of(value & 0xff), port, KISS_COMMANDS[parameter]);

/** How a modem keys its transmitter and shares the channel. */
export interface KissTiming {
  readonly txDelayMs: number;
  /** Chance to begin in a slot in which the channel is clear, %. */
  readonly persistencePercent: number;
  readonly slotMs: number;
}

/**
 * The parameters of a modem on one of its ports: transmit delay and slot time in units of 10 ms, persistence as 256 p - 1 (Chepponis & Karn 1987).
 */
export const encodeKissTiming = ({ txDelayMs, persistencePercent, slotMs }: KissTiming, port = 0): Uint8Array =>
  joinOctets([
    encodeKissParameter('txDelay', Math.round(txDelayMs / 10), port),
    encodeKissParameter('persistence', Math.max(0, Math.round((256 * persistencePercent) / 100) - 1), port),
    encodeKissParameter('slotTime', Math.round(slotMs / 10), port),
  ]);

/** Wraps a frame in a KISS frame that the modem confirms by `number` (0–65535) when it has sent it. */
export const encodeKissToConfirm = (frame: Uint8Array, number: number, port = 0): Uint8Array =>
  encodeKiss(joinOctets([Uint8Array.of((number >> 8) & 0xff, number & 0xff), frame]), port, KISS_COMMANDS.confirm);

export interface KissDecoder {
  /** Feeds one read, of any size and cut anywhere; returns what it completed, in order. */
  push(chunk: Uint8Array): (KissFrame | KissGarbage)[];
  /** What came so far before the first FEND: lines of text, or noise. Nothing once a frame has begun. */
  loose(): KissGarbage[];
  /** At the end of the stream: what was left unfinished. */
  end(): KissGarbage[];
}

/** The offset of the first FEND or FESC from `from` on; the length when there is none. */
function plainRun(octets: Uint8Array, from: number): number {
  let at = from;
  while (at < octets.length && octets[at] !== FEND && octets[at] !== FESC) at++;
  return at;
}

/**
 * A streaming decoder. The octets of a frame may be a view on the read that brought it. Frames longer than `maxOctets` are given up as garbage up to the next FEND,
 * so that a peer cannot make it hold an unbounded frame.
 */
export function createKissDecoder(maxOctets = 4096): KissDecoder {
  let buffer: Uint8Array = new Uint8Array(512);
  let length = 0;
  let inFrame = false;
  let escaped = false;
  let badEscapes = 0;
  let overlong = false;

  const keep = (octet: number) => {
    if (length === buffer.length) buffer = joinOctets([buffer, new Uint8Array(buffer.length)]);
    buffer[length++] = octet;
  };
  const take = (): Uint8Array => {
    const octets = buffer.slice(0, length);
    length = 0;
    escaped = false;
    overlong = false;
    return octets;
  };
  const garbage = (reason: string): KissGarbage => ({ kind: 'garbage', octets: take(), reason });

  return {
    push(chunk) {
      const out: (KissFrame | KissGarbage)[] = [];
      for (let i = 0; i < chunk.length; i++) {
        const octet = chunk[i]!;
        if (octet === FEND) {
          if (length > 0) {
            if (!inFrame) out.push(garbage('octets before the first FEND'));
            else if (overlong) out.push(garbage(`a frame longer than ${maxOctets} octets`));
            else {
              const octets = take();
              const type = octets[0]!;
              out.push({
                kind: 'frame',
                port: type >> 4,
                command: type & 0x0f,
                data: octets.subarray(1),
                badEscapes,
              });
            }
          }
          inFrame = true;
          escaped = false;
          badEscapes = 0;
          continue;
        }
        if (overlong) continue;
        if (inFrame && length === 0 && !escaped) {
          // Most frames lie whole and without escapes in one read: they are handed on as a view on it.
          const end = plainRun(chunk, i);
          if (chunk[end] === FEND && end - i <= maxOctets) {
            const data = new Uint8Array(chunk.buffer, chunk.byteOffset + i + 1, end - i - 1);
            out.push({ kind: 'frame', port: octet >> 4, command: octet & 0x0f, data, badEscapes });
            badEscapes = 0;
            i = end;
            continue;
          }
        }
        if (inFrame && escaped) {
          escaped = false;
          if (octet === TFEND) keep(FEND);
          else if (octet === TFESC) keep(FESC);
          // The paper: any other octet is an error, no action is taken, assembly goes on.
          else badEscapes++;
        } else if (inFrame && octet === FESC) {
          escaped = true;
        } else {
          keep(octet);
        }
        if (length > maxOctets) {
          if (inFrame) overlong = true;
          else out.push(garbage('octets before the first FEND'));
        }
      }
      return out;
    },
    loose() {
      return inFrame || length === 0 ? [] : [garbage('octets before the first FEND')];
    },
    end() {
      if (length === 0) return [];
      return [garbage(inFrame ? 'the stream ended inside a frame' : 'octets before the first FEND')];
    },
  };
}

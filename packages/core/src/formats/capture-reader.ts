import { FEND } from '../link/kiss';
import { fail, ok, type Parsed } from '../result';
import { OctetQueue } from './octet-queue';
import { LINKTYPE_AX25, LINKTYPE_AX25_KISS } from './pcap';

export interface CaptureRecord {
  readonly kind: 'record';
  /** Octet offset of the record in the file. */
  readonly at: number;
  readonly atMs: number;
  readonly port: number;
  /** The AX.25 octets without FCS. */
  readonly frame: Uint8Array;
}

export interface CaptureFault {
  readonly kind: 'fault';
  readonly at: number;
  readonly atMs: number | null;
  readonly octets: Uint8Array;
  readonly reason: string;
}

export type CaptureEvent = CaptureRecord | CaptureFault;

export interface CaptureReader {
  /** Feeds the next piece of the file; fails once, for good, when it is no capture of AX.25. */
  push(chunk: Uint8Array): Parsed<CaptureEvent[]>;
  end(): CaptureFault[];
}

/** Longest record or block that is read; longer ones are a damaged file. */
const MAX_RECORD = 65_535;
const MAX_BLOCK = MAX_RECORD + 4096;

/** A part of a file that is whole: what it holds and how long it is; null while octets are missing. */
type Step = { readonly octets: number; readonly event: CaptureEvent | null; readonly lost?: true } | null;
interface Dialect {
  /** Looks at what waits, from the file's octet `at` on. */
  step(waiting: OctetQueue, at: number): Parsed<Step>;
  /** What the file ended inside of. */
  readonly inside: () => string;
}

/** Where the octets of a record stand in what waits, and how many of them the file says there were. */
interface Body {
  readonly from: number;
  readonly length: number;
  readonly original: number;
}

/** The frame in a record of a link type; KISS puts a type octet in front. */
function recordOf(waiting: OctetQueue, body: Body, linkType: number, at: number, atMs: number): CaptureEvent {
  const { from, length, original } = body;
  const fault = (reason: string): CaptureFault => ({
    kind: 'fault',
    at,
    atMs,
    octets: waiting.copy(from, length),
    reason,
  });
  if (length < original) return fault(`the capture kept ${length} of ${original} octets`);
  if (linkType === LINKTYPE_AX25) return { kind: 'record', at, atMs, port: 0, frame: waiting.copy(from, length) };
  if (linkType !== LINKTYPE_AX25_KISS) return fault(wrongLink(linkType));
  const type = length === 0 ? FEND : waiting.octet(from);
  if (length === 0 || (type & 0x0f) !== 0) return fault('a KISS command, not a data frame');
  return { kind: 'record', at, atMs, port: type >> 4, frame: waiting.copy(from + 1, length - 1) };
}

const wrongLink = (linkType: number) => `link type ${linkType} is not AX.25 (3) or AX.25 with KISS (202)`;
const isAx25 = (linkType: number) => linkType === LINKTYPE_AX25 || linkType === LINKTYPE_AX25_KISS;

const MAGIC_MICRO = 0xa1b2c3d4;
const MAGIC_NANO = 0xa1b23c4d;

/** The older format, either byte order, times in micro- or nanoseconds (draft-ietf-opsawg-pcap §4, §5). */
function pcap(): Dialect {
  const header = 24;
  const recordHeader = 16;
  let little = true;
  let perSecond = 1e6;
  let linkType = -1;
  return {
    inside: () => (linkType < 0 ? 'the file ends inside its header' : 'the file ends inside a record'),
    step(waiting, at) {
      if (linkType < 0) {
        if (waiting.length < header) return ok(null);
        const [asLittle, asBig] = [waiting.uint32(0, true), waiting.uint32(0, false)];
        little = asLittle === MAGIC_MICRO || asLittle === MAGIC_NANO;
        perSecond = (little ? asLittle : asBig) === MAGIC_NANO ? 1e9 : 1e6;
        const told = waiting.uint32(20, little) & 0x0fff_ffff;
        if (!isAx25(told)) return fail(20, wrongLink(told));
        linkType = told;
        return ok({ octets: header, event: null });
      }
      if (waiting.length < recordHeader) return ok(null);
      const fraction = waiting.uint32(4, little);
      const length = waiting.uint32(8, little);
      const fault = (octets: number, reason: string, lost?: true): Step => ({
        octets,
        event: { kind: 'fault', at, atMs: null, octets: waiting.copy(0, Math.min(octets, recordHeader)), reason },
        lost,
      });
      if (length > MAX_RECORD)
        return ok(fault(recordHeader, `a record of ${length} octets: the file is damaged from here on`, true));
      const octets = recordHeader + length;
      if (waiting.length < octets) return ok(null);
      if (fraction >= perSecond) return ok(fault(octets, 'the time of the record has more than a second of fraction'));
      const atMs = waiting.uint32(0, little) * 1000 + (fraction * 1000) / perSecond;
      const body = { from: recordHeader, length, original: waiting.uint32(12, little) };
      return ok({ octets, event: recordOf(waiting, body, linkType, at, atMs) });
    },
  };
}

const SECTION = 0x0a0d0d0a;
const INTERFACE = 1;
const SIMPLE_PACKET = 3;
const ENHANCED_PACKET = 6;
const BYTE_ORDER = 0x1a2b3c4d;
const OPTION_RESOLUTION = 9;
const OPTION_OFFSET = 14;

interface Interface {
  readonly linkType: number;
  readonly perSecond: number;
  readonly offsetS: number;
}

/** The newer format: sections of blocks (draft-ietf-opsawg-pcapng §3, §4); blocks of other kinds are passed over. */
function pcapng(): Dialect {
  let little = true;
  let interfaces: Interface[] = [];
  return {
    inside: () => 'the file ends inside a block',
    step(waiting, at) {
      if (waiting.length < 12) return ok(null);
      // The type of a section reads the same in both byte orders; what follows tells which one it is.
      const section = waiting.uint32(0, true) === SECTION;
      if (section) little = waiting.uint32(8, true) === BYTE_ORDER;
      if (section && !little && waiting.uint32(8, false) !== BYTE_ORDER)
        return fail(at + 8, 'not a capture file: the byte-order magic is wrong');
      const type = waiting.uint32(0, little);
      const octets = waiting.uint32(4, little);
      const fault = (reason: string, lost?: true): Step => ({
        octets: lost ? 12 : octets,
        event: { kind: 'fault', at, atMs: null, octets: waiting.copy(0, 12), reason },
        lost,
      });
      if (octets < 12 || octets % 4 !== 0 || octets > MAX_BLOCK)
        return ok(fault(`a block of ${octets} octets: the file is damaged from here on`, true));
      if (waiting.length < octets) return ok(null);
      if (waiting.uint32(octets - 4, little) !== octets)
        return ok(fault('the two lengths of a block differ: the file is damaged from here on', true));
      if (section) interfaces = [];
      else if (type === INTERFACE) {
        if (octets < 20) return ok(fault('the description of an interface is cut off'));
        interfaces.push(interfaceOf(waiting, octets));
      } else if (type === ENHANCED_PACKET || type === SIMPLE_PACKET) {
        const lead = type === ENHANCED_PACKET ? 28 : 12;
        if (octets < lead + 4) return ok(fault('the block of a packet is cut off'));
        const from = interfaces[type === ENHANCED_PACKET ? waiting.uint32(8, little) : 0];
        if (!from) return ok(fault('a packet of an interface that is not described'));
        if (type === SIMPLE_PACKET) return ok(fault('a packet without a time'));
        const length = waiting.uint32(20, little);
        if (length > octets - lead - 4) return ok(fault('a packet is longer than its block'));
        const ticks = waiting.uint32(12, little) * 2 ** 32 + waiting.uint32(16, little);
        const atMs = (ticks / from.perSecond + from.offsetS) * 1000;
        const body = { from: lead, length, original: waiting.uint32(24, little) };
        return ok({ octets, event: recordOf(waiting, body, from.linkType, at, atMs) });
      }
      return ok({ octets, event: null });
    },
  };

  function interfaceOf(waiting: OctetQueue, octets: number): Interface {
    let perSecond = 1e6;
    let offsetS = 0;
    for (let at = 16; at + 4 <= octets - 4;) {
      const code = waiting.uint16(at, little);
      const length = waiting.uint16(at + 2, little);
      if (code === 0 || at + 4 + length > octets - 4) break;
      if (code === OPTION_RESOLUTION && length === 1) {
        const told = waiting.octet(at + 4);
        perSecond = told & 0x80 ? 2 ** (told & 0x7f) : 10 ** told;
      }
      if (code === OPTION_OFFSET && length === 8) offsetS = Number(waiting.int64(at + 4, little));
      at += 4 + Math.ceil(length / 4) * 4;
    }
    return { linkType: waiting.uint16(8, little), perSecond, offsetS };
  }
}

/** Which format the first four octets begin. */
function dialectOf(waiting: OctetQueue): Dialect | null {
  const [little, big] = [waiting.uint32(0, true), waiting.uint32(0, false)];
  if (little === SECTION) return pcapng();
  return [little, big].some((magic) => magic === MAGIC_MICRO || magic === MAGIC_NANO) ? pcap() : null;
}

/** A streaming reader of capture files of AX.25 in both formats, whatever the pieces are cut into. */
export function createCaptureReader(): CaptureReader {
  const queue = new OctetQueue();
  let dialect: Dialect | null = null;
  let failed: Parsed<never> | null = null;
  let lost = false;
  return {
    push(chunk) {
      if (failed) return failed;
      if (lost) return ok([]);
      queue.push(chunk);
      const events: CaptureEvent[] = [];
      if (!dialect) {
        if (queue.length < 4) return ok([]);
        dialect = dialectOf(queue);
        if (!dialect) return (failed = fail(0, 'not a capture file: the magic number is wrong'));
      }
      for (;;) {
        const step = dialect.step(queue, queue.taken);
        if (!step.ok) return (failed = step);
        if (step.value === null) return ok(events);
        queue.skip(step.value.octets);
        if (step.value.event) events.push(step.value.event);
        if (step.value.lost) {
          lost = true;
          return ok(events);
        }
      }
    },
    end() {
      if (failed || lost || queue.length === 0) return [];
      const reason = dialect?.inside() ?? 'the file ends inside its header';
      const at = queue.taken;
      return [{ kind: 'fault', at, atMs: null, octets: queue.take(queue.length), reason }];
    },
  };
}

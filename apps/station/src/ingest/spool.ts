import { randomUUID } from 'node:crypto';
import { open, type FileHandle } from 'node:fs/promises';
import { crc32 } from 'node:zlib';
import { z } from 'zod';
import { createInTurn } from '../in-turn';
import type { Heard } from './heard';

/** Set aside before it is needed: on a full disk there is no room to be had. */
export const SPOOL_OCTETS = 32 * 1024 * 1024;
const MAGIC = Buffer.from('TBSPOOL1');
/** Magic and the identifier of the present filling. */
const HEAD_OCTETS = MAGIC.length + 36;
/** Length and checksum in front of each record. */
const RECORD_HEAD_OCTETS = 8;
const MOST_RECORD_OCTETS = 256 * 1024;
const FILL_OCTETS = 1024 * 1024;

const record = z.object({
  b: z.string().nullable(),
  p: z.number().int().nullable(),
  f: z.enum(['ax25', 'line', 'mesh']),
  r: z.base64(),
  t: z.number(),
  x: z.object({ at: z.number().int(), reason: z.string() }).optional(),
  h: z.number().int().optional(),
  s: z.object({ snrDb: z.number().nullable(), rssiDbm: z.number().nullable() }).optional(),
});

/** Receptions as records of a file, in the order in which they were heard. */
export interface Spool {
  /** Identifier of the present filling: how far it was stored is recorded under it. */
  readonly filling: () => string;
  /** Octets of records that have not been read. */
  readonly from: (done: number) => number;
  /** Keeps as many as there is room for; gives how many. */
  append(heard: readonly Heard[]): Promise<number>;
  /** At most `most` records behind an offset, and the offset behind the last. */
  read(done: number, most: number): Promise<{ heard: Heard[]; done: number }>;
  /** Everything up to `done` was stored: begins anew, unless more came meanwhile. */
  empty(done: number): Promise<boolean>;
  close(): Promise<void>;
}

const encode = (filling: string, heard: Heard): Buffer => {
  const body = Buffer.from(
    JSON.stringify({
      b: heard.bearerId,
      p: heard.port,
      f: heard.form,
      r: Buffer.from(heard.raw).toString('base64'),
      t: heard.heardAtMs,
      ...(heard.frequencyHz != null && { h: heard.frequencyHz }),
      ...(heard.fault && { x: heard.fault }),
      ...(heard.signal && { s: heard.signal }),
    } satisfies z.infer<typeof record>),
  );
  const head = Buffer.alloc(RECORD_HEAD_OCTETS);
  head.writeUInt32BE(body.length, 0);
  head.writeUInt32BE(checksum(filling, body), 4);
  return Buffer.concat([head, body]);
};

/** Of the record and of its filling: what an earlier filling left behind does not count. */
const checksum = (filling: string, body: Buffer): number => crc32(body, crc32(filling)) >>> 0;

function decode(body: Buffer): Heard | null {
  try {
    const parsed = record.safeParse(JSON.parse(body.toString('utf8')));
    if (!parsed.success) return null;
    const { b, p, f, r, t, x, h, s: signal } = parsed.data;
    return {
      bearerId: b,
      importId: null,
      port: p,
      form: f,
      raw: new Uint8Array(Buffer.from(r, 'base64')),
      heardAtMs: t,
      ...(h !== undefined && { frequencyHz: h }),
      ...(x && { fault: x }),
      ...(signal && { signal }),
    };
  } catch {
    return null;
  }
}

/**
 * Opens a spool, or makes one with its whole room filled. Records of a process that was killed are found again: each has a checksum, and
 * the first that does not fit is the end.
 */
export async function openSpool(path: string, octets = SPOOL_OCTETS): Promise<Spool> {
  const file = await open(path, 'r+').catch(() => open(path, 'w+', 0o600));
  try {
    await file.chmod(0o600);
    const { size } = await file.stat();
    for (let at = size; at < octets; at += FILL_OCTETS)
      await file.write(Buffer.alloc(Math.min(FILL_OCTETS, octets - at)), 0, undefined, at);
    if (size < octets) await file.sync();
    return await spoolOn(file, octets);
  } catch (error) {
    await file.close();
    throw error;
  }
}

async function spoolOn(file: FileHandle, octets: number): Promise<Spool> {
  const head = Buffer.alloc(HEAD_OCTETS);
  await file.read(head, 0, HEAD_OCTETS, 0);
  let filling = head.subarray(MAGIC.length).toString('latin1');
  const begin = async () => {
    filling = randomUUID();
    await file.write(Buffer.concat([MAGIC, Buffer.from(filling)]), 0, undefined, 0);
    await file.datasync();
  };
  if (!head.subarray(0, MAGIC.length).equals(MAGIC) || !/^[0-9a-f-]{36}$/.test(filling)) await begin();

  const read = async (done: number, most: number) => {
    const heard: Heard[] = [];
    let at = done;
    while (heard.length < most && at + RECORD_HEAD_OCTETS <= octets) {
      const length = Buffer.alloc(RECORD_HEAD_OCTETS);
      await file.read(length, 0, RECORD_HEAD_OCTETS, at);
      const size = length.readUInt32BE(0);
      if (size === 0 || size > MOST_RECORD_OCTETS || at + RECORD_HEAD_OCTETS + size > octets) break;
      const body = Buffer.alloc(size);
      await file.read(body, 0, size, at + RECORD_HEAD_OCTETS);
      if (checksum(filling, body) !== length.readUInt32BE(4)) break;
      at += RECORD_HEAD_OCTETS + size;
      const one = decode(body);
      if (one) heard.push(one);
    }
    return { heard, done: at };
  };

  let end = HEAD_OCTETS;
  for (;;) {
    const next = await read(end, 1000);
    if (next.done === end) break;
    end = next.done;
  }

  /** One writer at a time: each begins where the one before ended. */
  const inTurn = createInTurn();
  const append = async (heard: readonly Heard[]) => {
    const records: Buffer[] = [];
    let size = 0;
    for (const one of heard) {
      const octetsOfOne = encode(filling, one);
      if (octetsOfOne.length > MOST_RECORD_OCTETS || end + size + octetsOfOne.length > octets) break;
      records.push(octetsOfOne);
      size += octetsOfOne.length;
    }
    if (size === 0) return 0;
    await file.write(Buffer.concat(records), 0, undefined, end);
    // A crash of the program loses nothing that was written; a crash of the machine what was heard in the last moments.
    end += size;
    return records.length;
  };
  return {
    filling: () => filling,
    from: (done) => end - Math.max(done, HEAD_OCTETS),
    append: (heard) => inTurn(() => append(heard)),
    read: (done, most) => read(Math.max(done, HEAD_OCTETS), most),
    // What was added since the last look stays: only an empty one begins anew.
    empty: (done) =>
      inTurn(async () => {
        if (end > Math.max(done, HEAD_OCTETS)) return false;
        await begin();
        end = HEAD_OCTETS;
        return true;
      }),
    close: () => inTurn(() => file.close()),
  };
}

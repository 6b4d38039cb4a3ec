import { createCipheriv, createDecipheriv, randomBytes, scrypt } from 'node:crypto';
import type { Readable } from 'node:stream';
import { z } from 'zod';

/**
 * A sealed stream (docs/backup.md): a line of JSON with how the key is made of the passphrase (scrypt, RFC 7914), then pieces under
 * AES-256-GCM (NIST SP 800-38D). Each piece has its number as nonce and is bound to the head; the last one says that it is the last, so
 * that a file that was cut off, reordered or put together of two is told from a whole one.
 */
const MAGIC = 'tombolo-backup';
const PIECE_OCTETS = 256 * 1024;
const TAG_OCTETS = 16;
const MOST_HEAD_OCTETS = 1000;
/** 64 MB for a guess: much for whoever tries many, little for whoever knows it. */
const COST = { n: 2 ** 16, r: 8, p: 1 } as const;
const MOST_MEMORY = 192 * 1024 * 1024;

const head = z.object({
  format: z.literal(MAGIC),
  version: z.literal(1),
  salt: z.string().regex(/^[0-9a-f]{32}$/),
  n: z
    .number()
    .int()
    .min(2)
    .max(2 ** 17),
  r: z.number().int().min(1).max(16),
  p: z.number().int().min(1).max(4),
});
type Head = z.infer<typeof head>;

/** The file is none of ours, or was damaged, or the passphrase is another one. */
export class SealError extends Error {}

const keyOf = (passphrase: string, { salt, n, r, p }: Head): Promise<Buffer> =>
  new Promise((resolve, reject) =>
    scrypt(
      passphrase.normalize('NFC'),
      Buffer.from(salt, 'hex'),
      32,
      { N: n, r, p, maxmem: MOST_MEMORY },
      (error, key) => (error ? reject(error) : resolve(key)),
    ),
  );

/** Number and whether it is the last: never twice under one key. */
function nonceOf(number: number, last: boolean): Buffer {
  const nonce = Buffer.alloc(12);
  nonce.writeUInt8(last ? 1 : 0, 0);
  nonce.writeUIntBE(number, 6, 6);
  return nonce;
}

export async function* seal(passphrase: string, content: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  const facts: Head = { format: MAGIC, version: 1, salt: randomBytes(16).toString('hex'), ...COST };
  const line = Buffer.from(`${JSON.stringify(facts)}\n`);
  const key = await keyOf(passphrase, facts);
  yield line;
  let number = 0;
  const piece = (octets: Buffer, last: boolean) => {
    const cipher = createCipheriv('aes-256-gcm', key, nonceOf(number++, last));
    cipher.setAAD(line);
    const sealed = Buffer.concat([cipher.update(octets), cipher.final(), cipher.getAuthTag()]);
    const length = Buffer.alloc(4);
    length.writeUInt32BE(sealed.length, 0);
    return Buffer.concat([length, sealed]);
  };
  let waiting: Buffer = Buffer.alloc(0);
  for await (const part of content) {
    waiting = Buffer.concat([waiting, part]);
    for (; waiting.length > PIECE_OCTETS; waiting = waiting.subarray(PIECE_OCTETS))
      yield piece(waiting.subarray(0, PIECE_OCTETS), false);
  }
  yield piece(waiting, true);
}

export async function* unseal(passphrase: string, file: Readable): AsyncGenerator<Buffer> {
  let waiting: Buffer = Buffer.alloc(0);
  let facts: { line: Buffer; key: Buffer } | null = null;
  let number = 0;
  let whole = false;
  for await (const part of file as AsyncIterable<Buffer>) {
    waiting = waiting.length === 0 ? part : Buffer.concat([waiting, part]);
    if (whole) throw new SealError('Something follows behind the end of the backup: it was changed.');
    if (!facts) {
      const end = waiting.indexOf(0x0a);
      if (end < 0 && waiting.length <= MOST_HEAD_OCTETS) continue;
      facts = await readHead(passphrase, waiting.subarray(0, Math.max(0, end + 1)));
      waiting = waiting.subarray(end + 1);
    }
    while (waiting.length >= 4) {
      const length = waiting.readUInt32BE(0);
      if (length < TAG_OCTETS || length > PIECE_OCTETS + TAG_OCTETS) throw new SealError('The backup is damaged.');
      if (waiting.length < 4 + length) break;
      const piece = open(facts, number, waiting.subarray(4, 4 + length));
      waiting = waiting.subarray(4 + length);
      number++;
      yield piece.octets;
      if (!piece.last) continue;
      if (waiting.length > 0) throw new SealError('Something follows behind the end of the backup: it was changed.');
      whole = true;
      break;
    }
  }
  if (!whole) throw new SealError('The backup was cut off: it is not whole.');
}

async function readHead(passphrase: string, line: Buffer): Promise<{ line: Buffer; key: Buffer }> {
  let parsed;
  try {
    parsed = head.safeParse(JSON.parse(line.toString('utf8')));
  } catch {
    throw new SealError('That file is no backup of this program.');
  }
  if (!parsed.success) throw new SealError('That file is no backup that this version can read.');
  return { line: Buffer.from(line), key: await keyOf(passphrase, parsed.data) };
}

function open({ line, key }: { line: Buffer; key: Buffer }, number: number, sealed: Buffer) {
  for (const last of [false, true]) {
    const decipher = createDecipheriv('aes-256-gcm', key, nonceOf(number, last));
    decipher.setAAD(line);
    decipher.setAuthTag(sealed.subarray(-TAG_OCTETS));
    try {
      return { octets: Buffer.concat([decipher.update(sealed.subarray(0, -TAG_OCTETS)), decipher.final()]), last };
    } catch {
      continue;
    }
  }
  throw new SealError(
    number === 0 ? 'The passphrase does not fit, or the backup is damaged.' : 'The backup is damaged in the middle.',
  );
}

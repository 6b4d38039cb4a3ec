import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Client } from 'pg';
import { disarm } from '../transmissions/write';
import { clientOf } from './access';
import { differing, digestsOf, manifest as manifestSchema, type Manifest, type TableDigests } from './content';
import { runProgram, type Target } from './programs';
import { SealError, unseal } from './seal';

const MOST_MANIFEST_OCTETS = 1024 * 1024;
/** Numbers that were given after the backup was made must not be given again: whoever has one would take the new text for a repeat. */
const NUMBERS_AHEAD = 5000;

/** Opens a backup: what is in it, and the dump behind that. */
export async function readBackup(
  passphrase: string,
  file: Readable,
): Promise<{ manifest: Manifest; dump: AsyncGenerator<Buffer> }> {
  const pieces = unseal(passphrase, file);
  let waiting: Buffer = Buffer.alloc(0);
  const more = async () => {
    const next = await pieces.next();
    if (next.done) throw new SealError('The backup was cut off: it is not whole.');
    waiting = Buffer.concat([waiting, next.value]);
  };
  while (waiting.length < 4) await more();
  const length = waiting.readUInt32BE(0);
  if (length > MOST_MANIFEST_OCTETS) throw new SealError('The backup is damaged.');
  while (waiting.length < 4 + length) await more();
  const parsed = manifestSchema.safeParse(JSON.parse(waiting.subarray(4, 4 + length).toString('utf8')));
  if (!parsed.success) throw new SealError('That backup is of a version that this one cannot read.');
  const rest = waiting.subarray(4 + length);
  return {
    manifest: parsed.data,
    dump: (async function* () {
      yield rest;
      yield* pieces;
    })(),
  };
}

/** Fills an empty database from a dump, all of it or nothing; gives what stands there then. */
export async function restoreInto(target: Target, dump: AsyncGenerator<Buffer>): Promise<TableDigests> {
  const restore = runProgram(target, 'pg_restore', [
    '--no-owner',
    '--no-privileges',
    '--exit-on-error',
    '--single-transaction',
    '-d',
    new URL(target.url).pathname.slice(1),
  ]);
  restore.output.resume();
  try {
    await pipeline(Readable.from(dump), restore.child.stdin!);
  } catch (error) {
    restore.child.kill('SIGKILL');
    // What pg_restore says tells more than that its pipe broke.
    await restore.done.catch((failed: Error) => {
      if ((error as NodeJS.ErrnoException).code === 'EPIPE') throw failed;
    });
    throw error;
  }
  await restore.done;
  const client = clientOf(target.url);
  client.on('error', () => undefined);
  await client.connect();
  try {
    return await digestsOf(client);
  } finally {
    await client.end();
  }
}

/**
 * Restores a backup into an empty database, compares it with what was saved, and disarms it: what was waiting to go out is held until the
 * operator releases it, whatever goes out by itself is off, and message numbers begin well behind those that may have been given since.
 */
export async function restoreBackup(target: Target, passphrase: string, file: Readable, now: Date): Promise<Manifest> {
  const { manifest, dump } = await readBackup(passphrase, file);
  const wrong = differing(manifest.tables, await restoreInto(target, dump));
  if (wrong.length > 0) throw new Error(`The restored copy differs from what was saved, in ${wrong.join(', ')}.`);
  const client = clientOf(target.url);
  await client.connect();
  try {
    await client.query('begin');
    await disarm(
      (sql, parameters) => client.query(sql, parameters),
      `restored from the backup of ${manifest.createdAt.slice(0, 16)}Z: it may have been sent since`,
    );
    await switchOff(client);
    await client.query(`select setval('message_number', (select last_value from message_number) + $1::bigint)`, [
      NUMBERS_AHEAD,
    ]);
    // Consoles that saw later events than the copy has load everything anew.
    await client.query('update event_head set seq = seq + 1000000');
    await client.query('insert into audit (at, by_whom, what, detail) values ($1, $2, $3, $4)', [
      now,
      'the operator',
      'restored a backup',
      manifest.createdAt,
    ]);
    await client.query('commit');
  } finally {
    await client.end();
  }
  return manifest;
}

/** The station that was saved may still be there and do all this: two of them would transmit as one. */
async function switchOff(client: Client): Promise<void> {
  await client.query('update standing_rule set enabled = false');
  const nothing = { beacon: null, statusPlan: null, repeating: null, emergency: null };
  await client.query(`update setting set value = value || $1::jsonb where part = 'station'`, [JSON.stringify(nothing)]);
  // A backup of an older version has not all of it; it is brought up to date later.
  const has = async (table: string): Promise<boolean> => {
    const { rows } = await client.query<{ there: boolean }>('select to_regclass($1) is not null as there', [table]);
    return rows[0]!.there;
  };
  if (await has('public.tracker')) await client.query(`update tracker set shown = shown || '{"bridged": false}'`);
  if (await has('public.own_bulletin'))
    await client.query('update own_bulletin set ended_at = now() where ended_at is null');
  // Neither told nor taken off: that is for the other one to say.
  if (await has('public.own_object'))
    await client.query(`update own_object set live = false, changed_at = 'epoch', revision = revision + 1 where live`);
}

import { createReadStream, createWriteStream } from 'node:fs';
import { rename, rm, stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ownStation, defaultSettings, settings as settingsSchema } from '@tombolo/contract';
import type { Client } from 'pg';
import { randomUUID } from 'node:crypto';
import { STILL_GOES_OUT } from '../transmissions/write';
import { clientOf } from './access';
import { differing, digestsOf, type Manifest } from './content';
import { runProgram, type Target } from './programs';
import { readBackup, restoreInto } from './restore';
import { seal } from './seal';

export interface Made {
  readonly octets: number;
  readonly manifest: Manifest;
}

/**
 * Writes a backup: all of the database at one moment, sealed under a passphrase. It bears its name only when it has been restored into a
 * scratch database and is the same there, table by table.
 */
export async function makeBackup(
  target: Target,
  file: string,
  passphrase: string,
  about: { readonly version: string; readonly now: Date },
): Promise<Made> {
  const unfinished = `${file}.unfinished`;
  const client = clientOf(target.url);
  client.on('error', () => undefined);
  await client.connect();
  let manifest: Manifest;
  try {
    // One moment for the dump and for what is said about it.
    await client.query('begin transaction isolation level repeatable read read only');
    const { rows } = await client.query<{ id: string }>('select pg_export_snapshot() as id');
    manifest = await describe(client, about);
    const dump = runProgram(target, 'pg_dump', ['-Fc', '--no-comments', `--snapshot=${rows[0]!.id}`]);
    await pipeline(
      Readable.from(seal(passphrase, content(manifest, dump.output))),
      createWriteStream(unfinished, { mode: 0o600 }),
    );
    await dump.done;
    await client.query('commit');
  } catch (error) {
    await rm(unfinished, { force: true });
    throw error;
  } finally {
    await client.end().catch(() => undefined);
  }
  try {
    await verifyBackup(target, unfinished, passphrase);
    await rename(unfinished, file);
  } catch (error) {
    await rm(unfinished, { force: true });
    throw error;
  }
  return { octets: (await stat(file)).size, manifest };
}

async function* content(manifest: Manifest, dump: Readable): AsyncGenerator<Buffer> {
  const line = Buffer.from(JSON.stringify(manifest));
  const length = Buffer.alloc(4);
  length.writeUInt32BE(line.length, 0);
  yield length;
  yield line;
  yield* dump as AsyncIterable<Buffer>;
}

async function describe(client: Client, { version, now }: { version: string; now: Date }): Promise<Manifest> {
  const number = async (sql: string) => Number((await client.query<{ n: string }>(sql)).rows[0]?.n ?? 0);
  const { rows } = await client.query<{ value: object }>('select value from setting');
  const settings = settingsSchema.safeParse(Object.assign({ ...defaultSettings }, ...rows.map(({ value }) => value)));
  return {
    format: 1,
    createdAt: now.toISOString(),
    version,
    station: (settings.success && ownStation(settings.data)) || '',
    items: await number('select count(*) as n from item'),
    packets: await number('select count(*) as n from packet'),
    maps: await number('select count(*) as n from map_layer where complete'),
    waiting: await number(`select count(*) as n from leg where ${STILL_GOES_OUT}`),
    tables: await digestsOf(client),
  };
}

/** Restores a backup into a scratch database and compares; throws in words where it is not the same. */
export async function verifyBackup(target: Target, file: string, passphrase: string): Promise<void> {
  const scratch = `tombolo_scratch_${randomUUID().replaceAll('-', '')}`;
  const url = new URL(target.url);
  url.pathname = '/postgres';
  const admin = clientOf(url.href);
  admin.on('error', () => undefined);
  await admin.connect();
  try {
    await admin.query(`create database ${scratch}`);
    url.pathname = `/${scratch}`;
    const { manifest, dump } = await readBackup(passphrase, createReadStream(file));
    const found = await restoreInto({ ...target, url: url.href }, dump);
    const wrong = differing(manifest.tables, found);
    if (wrong.length > 0) throw new Error(`The copy differs from what was saved, in ${wrong.join(', ')}.`);
  } finally {
    await admin.query(`drop database if exists ${scratch} with (force)`).catch(() => undefined);
    await admin.end().catch(() => undefined);
  }
}

import { DataSource } from 'typeorm';
import { BOARD_PROFILES, encodeMicE, formatMonitorLine, readServiceWord } from '@tombolo/core';
import {
  bearerConfig,
  type BearerView,
  type ItemDetail,
  type MeshNodeView,
  type PacketSummary,
  type Settings,
  type StationDetail,
  type TrailView,
} from '@tombolo/contract';
import { apiOf, createDatabase, frameOctets, rebuilt, startTestStation } from '../testing/harness';
import { serviceAt } from '../services/directory';
import { provesSomething, questionsFor } from '../services/questions';
import { rowsOf } from './database';
import { bringUpToDate } from './migrate';
import { migrations } from './migrations';
import { FourWays } from './migrations/four-ways';
import { Services } from './migrations/services';
import { Initial } from './migrations/initial';

/** A database as the version before left it, with what that version understood of two packets. */
async function olderDatabase(url: string): Promise<void> {
  const source = new DataSource({
    type: 'postgres',
    url,
    migrations: [Initial, FourWays],
    migrationsTransactionMode: 'each',
  });
  await source.initialize();
  await source.runMigrations();
  const { destination, info } = encodeMicE({
    latitude: 41.2,
    longitude: -43.4,
    symbol: { table: '/', code: '>' },
    message: 'En Route',
    comment: 'Convoy',
  });
  const lines = [
    new TextDecoder('latin1').decode(
      formatMonitorLine({ source: 'QT1AA-9', destination, path: [], info }, { escapes: true }),
    ),
    'QT1AB>APRS,QT0TH-3*:!4112.00N/04324.00W-Home',
    'QT1AB>APRS,QT0TH-3*:!4112.50N/04324.00W-Home',
  ];
  const start = Date.now() - 3_600_000;
  for (const [i, line] of lines.entries()) {
    const at = new Date(start + i * 60_000);
    const raw = Buffer.from(frameOctets(line));
    const packetInfo = raw.subarray(raw.indexOf(0xf0) + 1);
    await source.query(
      `insert into packet (id, identity, first_at, source, destination, kind, summary, info)
       values ($1, $2, $3, $4, 'APRS', $5, 'left as it was', $6)`,
      [i + 1, Buffer.from([i]), at, line.split('>')[0], i === 0 ? 'Mic-E position' : 'position', packetInfo],
    );
    await source.query(
      `insert into reception (packet_id, bearer_id, heard_at, recorded_at, form, raw, how, words, line)
       values ($1, 'radio', $2, $2, 'ax25', $3, 'direct', 'heard direct', $4)`,
      [i + 1, at, raw, line],
    );
  }
  await source.query(
    `insert into setting (id, value, changed_at) values (1, '{"retry":{"firstS":20,"factor":2,"capS":600,"tries":5,"jitter":0.2}}', now())`,
  );
  await source.query(
    `insert into station (call, first_at, last_at, how, via, words, how_at) values ('QT1AA-9', now(), now(), 'direct', '{}', 'heard direct', now())`,
  );
  await source.destroy();
}

describe('a database of an earlier version', () => {
  it('is brought up to date, and what it kept is understood anew', async () => {
    const database = await createDatabase({ empty: true });
    try {
      await olderDatabase(database.ownerUrl);
      await bringUpToDate(database.ownerUrl);
      const station = await startTestStation(database.url);
      const api = apiOf(station);
      // It is done while the station serves.
      await rebuilt(station);
      expect(await api.get<StationDetail>('/stations/QT1AA-9')).toMatchObject({
        message: 'En Route',
        comment: 'Convoy',
        latitude: expect.closeTo(41.2, 4),
        packets: 1,
      });
      const { rows } = await api.get<{ rows: PacketSummary[] }>('/packets?kind=Mic-E');
      expect(rows).toMatchObject([{ source: 'QT1AA-9', summary: expect.stringContaining('En Route') }]);
      expect((await api.get<{ rows: PacketSummary[] }>('/packets?bearerId=radio')).rows).toHaveLength(3);
      expect(await api.get<TrailView[]>('/trails?hours=2')).toMatchObject([
        { call: 'QT1AB', steps: [-4_340_000, 4_120_000, 0, 833] },
      ]);
      // The first retry of earlier versions fell into the time in which digipeaters drop repeats.
      expect((await api.get<Settings>('/settings')).retry).toMatchObject({ firstS: 32, tries: 5 });
      // Nothing that was heard is touched, and it is not done again.
      expect(await rowsOf(station.context.database, 'select count(*)::int as n from reception')).toEqual([{ n: 3 }]);
      expect(await rowsOf(station.context.database, 'select 1 from rebuild_wanted')).toEqual([]);
      await station.stop();
    } finally {
      await database.drop();
    }
  });

  it('has its settings parted: modems keep what was theirs, people have a table', async () => {
    const database = await createDatabase({ empty: true });
    try {
      await olderDatabase(database.ownerUrl);
      const source = await new DataSource({ type: 'postgres', url: database.ownerUrl }).initialize();
      const ferry = { name: 'Ferry Office', phone: '+00 555 0142', mail: 'office@ferry.example', meshNode: null };
      const value = {
        call: 'QT2AR',
        ssid: 9,
        region: 'europe',
        licenceConfirmed: true,
        antennaConfirmed: true,
        frequencyMHz: 144.8,
        txDelayMs: 450,
        path: ['WIDE2-1'],
        distanceUnit: 'nmi',
        people: [
          { ...ferry, licensed: false },
          { ...ferry, name: 'FERRY office', licensed: true },
          { name: 'Farm', phone: null, mail: null, meshNode: 'LSFARM', licensed: false },
        ],
      };
      await source.query('update setting set value = value || $1', [value]);
      for (const [id, tuned] of [
        ['radio', { frequencyMHz: null }],
        // Before a modem could say what it is tuned to.
        ['older', {}],
        ['other', { frequencyMHz: 145.825 }],
      ] as const)
        await source.query(
          `insert into bearer (id, name, config, enabled, state, created_at)
           values ($1, 'Radio', $2, false, '{"link":"off","since":"2026-01-05T12:00:00.000Z","reason":null,"nextTryAt":null}', now())`,
          [id, { kind: 'kiss-tcp', host: '127.0.0.1', port: 1, modemPort: 0, ...tuned, confirms: false }],
        );
      // Before anybody could note when a board forwards.
      await source.query(
        `insert into bearer (id, name, config, enabled, state, created_at)
         values ('board', 'Board', $1, false, '{"link":"off","since":"2026-01-05T12:00:00.000Z","reason":null,"nextTryAt":null}', now())`,
        [{ kind: 'board', over: 'radio', call: 'QT1BB-4', path: [], profile: BOARD_PROFILES[0] }],
      );
      await source.destroy();
      await bringUpToDate(database.ownerUrl);
      const station = await startTestStation(database.url);
      const api = apiOf(station);
      const settings = await api.get<Settings>('/settings');
      expect(settings).toMatchObject({ call: 'QT2AR', ssid: 9, region: 'europe', antennaConfirmed: true });
      expect(Object.keys(settings)).not.toContain('txDelayMs');
      const parts = await rowsOf(station.context.database, 'select part from setting order by part');
      expect(parts).toEqual([{ part: 'operator' }, { part: 'station' }]);
      const links = (await api.get<BearerView[]>('/bearers')).map(({ config }) => config);
      const modems = links.filter(({ kind }) => kind === 'kiss-tcp');
      expect([links.length, modems.length]).toEqual([4, 3]);
      for (const config of links) expect(bearerConfig.parse(config)).toEqual(config);
      const keyed = { txDelayMs: 450, persistencePercent: 25, slotMs: 100, path: ['WIDE2-1'] };
      expect(modems).toEqual(
        expect.arrayContaining([
          expect.objectContaining({ frequencyMHz: 144.8, ...keyed }),
          expect.objectContaining({ frequencyMHz: 144.8, ...keyed }),
          expect.objectContaining({ frequencyMHz: 145.825, ...keyed }),
        ]),
      );
      expect(await api.get('/people')).toEqual([
        {
          id: expect.any(String),
          name: 'Ferry Office',
          licensed: false,
          agreement: '',
          broughtBy: [],
          addresses: [
            { sort: 'phone', address: '+00 555 0142' },
            { sort: 'mail', address: 'office@ferry.example' },
          ],
        },
        {
          id: expect.any(String),
          name: 'Farm',
          licensed: false,
          agreement: '',
          broughtBy: [],
          addresses: [{ sort: 'node', address: 'LSFARM' }],
        },
      ]);
      await station.stop();
    } finally {
      await database.drop();
    }
  });

  it('keeps its mesh under the new numbers, and sends nothing there before a frequency is set', async () => {
    const database = await createDatabase({ empty: true });
    try {
      await olderDatabase(database.ownerUrl);
      const source = await new DataSource({ type: 'postgres', url: database.ownerUrl }).initialize();
      const channels = [{ name: 'Sound', key: null, kept: false }];
      const config = {
        kind: 'mesh-mqtt',
        host: '127.0.0.1',
        port: 1,
        root: 't',
        node: '5a100002',
        hopLimit: 4,
        channels,
      };
      await source.query(
        `insert into bearer (id, name, config, enabled, state, created_at)
         values ('mesh', 'Mesh', $1, true, '{"link":"up","since":"2026-01-05T12:00:00.000Z","reason":null,"nextTryAt":null}', now())`,
        [{ ...config, shortName: 'sk-c', longName: 'School' }],
      );
      await source.query(
        `insert into mesh_node (bearer_id, node, short_name, long_name, router, last_at)
         values ('mesh', '5a100005', 'LSFM', 'Farm', true, now()), ('mesh', '5a100006', '5a100006', '', false, now())`,
      );
      await source.query(
        `insert into item (id, direction, kind, precedence, sender, addressee, body, cc, acknowledgement_asked, created_at, external_id, trace)
         values ('0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c3e', 'in', 'text', 'routine', 'LSFM', 'sk-c', 'Hello', '{}', false, now(), 'mesh:x', '{5a100005,LSFM}')`,
      );
      await source.query(
        `insert into leg (id, item_id, role, bearer_id, from_call, to_call, path, info, acknowledgement_asked, policy, created_at, detail)
         values (gen_random_uuid(), '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c3e', 'convey', 'mesh', 'LSFM', 'sk-c', '{}', '', false, '{}', now(),
                 '{"node":"5a100005","channel":"Sound","arrivedBy":["SKRG"]}')`,
      );
      await source.destroy();
      await bringUpToDate(database.ownerUrl);
      const station = await startTestStation(database.url);
      const api = apiOf(station);
      const [link] = await api.get<BearerView[]>('/bearers');
      // 0x5a100002 in Crockford's base 32, by the integers of the language.
      expect(link!.config).toEqual({
        ...config,
        node: '01D1-0002',
        tag: 'SKC',
        name: 'School',
        carrier: false,
        announceMin: 20,
        radio: null,
      });
      expect(bearerConfig.safeParse(link!.config).success).toBe(true);
      expect(link!.state).toMatchObject({ link: 'down', reason: expect.stringContaining('not set') });
      const nodes = await api.get<MeshNodeView[]>('/mesh-nodes');
      expect(nodes.map(({ node, tag, carrier }) => [node, tag, carrier]).sort()).toEqual([
        ['01D1-0005', 'LSFM', true],
        ['01D1-0006', '01D1-0006', false],
      ]);
      const item = await api.get<ItemDetail>('/items/0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c3e');
      expect(item.causeway!.stones.map(({ label }) => label)).toEqual(['LSFM', 'SKRG', 'sk-c']);
      expect(await rowsOf(station.context.database, 'select trace from item')).toEqual([
        { trace: ['01D1-0005', 'LSFM'] },
      ]);
      await station.stop();
    } finally {
      await database.drop();
    }
  });

  it('with services known by heart has them in a directory, and what went to them is answered as before', async () => {
    const database = await createDatabase({ empty: true });
    try {
      const before = migrations.slice(0, migrations.indexOf(Services));
      const source = new DataSource({
        type: 'postgres',
        url: database.ownerUrl,
        migrations: before,
        migrationsTransactionMode: 'each',
      });
      await source.initialize();
      await source.runMigrations();
      await source.query(
        `insert into bearer (id, name, config, enabled, created_at, state)
         values ('radio', 'Radio', '{"kind":"line-feed","host":"127.0.0.1","port":1,"answerOver":null}', true, now(), '{}')`,
      );
      const ids = ['0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c01', '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c02'];
      for (const [n, detail] of [{ relay: { person: 'Ferry', service: 'TELTXT', far: '005550142' } }, null].entries()) {
        await source.query(
          `insert into item (id, direction, kind, precedence, sender, addressee, body, acknowledgement_asked, created_at, refused, trace)
           values ($1, 'out', 'text', 'routine', 'QT2AR-7', 'TELTXT', '005550177: By hand', true, now(), false, '{}')`,
          [ids[n]],
        );
        await source.query(
          `insert into leg (id, item_id, role, bearer_id, from_call, to_call, path, info, acknowledgement_asked, policy, created_at, detail)
           values ($1, $1, 'convey', 'radio', 'QT2AR-7', 'TELTXT', '{}', '', true, '{}', now(), $2)`,
          [ids[n], detail && JSON.stringify(detail)],
        );
        await source.query(
          `insert into attempt (leg_id, n, intended_at, frame, identity) values ($1, 1, now(), '', '')`,
          [ids[n]],
        );
      }
      await source.destroy();
      await bringUpToDate(database.ownerUrl);
      const station = await startTestStation(database.url);
      const service = (await serviceAt(station.context.database, 'TELTXT'))!;
      const found = async (text: string) => {
        const word = readServiceWord(service, text)!;
        if (!provesSomething(word)) throw new Error('it proves nothing');
        return (await questionsFor(station.context.database, service, word, Date.now() + 1000)).map(
          ({ itemId }) => itemId,
        );
      };
      expect(await found('Text to 005550142 taken')).toEqual([ids[0]]);
      expect(await found('005550177: Yes')).toEqual([ids[1]]);
      expect((await apiOf(station).get<{ address: string }[]>('/services')).map(({ address }) => address)).toEqual([
        'POSTBX',
        'TELTXT',
      ]);
      await station.stop();
    } finally {
      await database.drop();
    }
  });
});

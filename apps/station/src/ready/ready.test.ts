import { randomUUID } from 'node:crypto';
import type { CheckRuns, NewOwnCause } from '@tombolo/contract';
import {
  checkState,
  encodeKiss,
  EVERYBODY,
  octetsOfText,
  ruleBaseOf,
  type OwnCause,
  type Seen,
  type SymptomId,
} from '@tombolo/core';
import { eachWithModem, eventually, RADIO } from '../testing/harness';
import { FARM_NODE, OWN_NODE, RELIEF } from '../testing/mesh-station';
import { openPtyLine } from '../testing/serial-line/pty-line';
import { meshConfig, startMeshNode } from '../testing/mesh-node';
import { textTo } from '../testing/written';
import { insertBearer } from '../http/routes/bearers';

const at = eachWithModem();

/** Outcomes by test; what only helps to answer is none. */
const outcomesOf = (sees: readonly Seen[]): Record<string, string> =>
  Object.fromEntries(sees.flatMap(({ testId, outcomeId }) => (outcomeId === null ? [] : [[testId, outcomeId]])));
const seen = async () => outcomesOf(await at.api.get<Seen[]>('/ready/seen'));
const SAFE = { licence: 'yes', antenna: 'yes', distance: 'yes', cell: 'yes' };
/** What the check says when nobody answers but the dangerous questions. */
const verdict = async (symptom: SymptomId) => {
  const state = checkState(ruleBaseOf(symptom), { ...(await seen()), ...SAFE });
  return state.is === 'verdict' ? state.possible.map(({ causeId }) => causeId) : state.is;
};
/** Until the check needs nobody to name these. */
const namedAs = (symptom: SymptomId, cause: string) =>
  eventually(async () => {
    const named = await verdict(symptom);
    return Array.isArray(named) && named.length === 1 && named[0] === cause;
  }, 20);

describe('what the station sees by itself', () => {
  it('is that nothing is wrong where nothing is', async () => {
    at.modem.hear('QT1NC>APRS,QT0BR-1*:>Net control');
    await eventually(async () => (await seen()).octets === 'frames');
    expect(await seen()).toMatchObject({
      licence: 'yes',
      lock: 'no',
      hold: 'no',
      bearer: 'yes',
      port: 'yes',
      line: 'yes',
      mode: 'yes',
      path: 'general',
      capitals: 'yes',
      store: 'yes',
    });
    // What nobody can see from here is left to be asked.
    for (const asked of ['antenna', 'distance', 'mark', 'tone', 'repeated', 'gated', 'gateway'])
      expect(await seen()).not.toHaveProperty(asked);
  });

  it('names a line at the wrong speed: octets arrive, and none of them is a frame', async () => {
    // What 9600 Bd looks like to a port at another speed: neither frames nor text.
    for (let n = 0; n < 8; n++) at.modem.hearOctets(encodeKiss(Uint8Array.of(0x80 + n, 0xf8, 0x06, 0x9e, 0xe0)));
    await namedAs('nothing-goes-out', 'line-speed');
    await namedAs('nothing-decodes', 'line-speed');
  });

  it('names a modem that waits for commands: it says a line and waits', async () => {
    at.modem.hearOctets(octetsOfText('ready\r\ncommand:'));
    await namedAs('nothing-goes-out', 'not-kiss');
  });

  it('names a modem that is not there, and one that is switched off here', async () => {
    await at.modem.stop();
    await namedAs('nothing-goes-out', 'port-away');
    await at.api.patch(`/bearers/${RADIO}`, { enabled: false });
    await namedAs('nothing-goes-out', 'bearer-off');
  });

  it('names a lock, and everything held', async () => {
    at.modem.hear('QT1NC>APRS:>Net control');
    await eventually(async () => (await seen()).octets === 'frames');
    await at.api.patch('/settings', { antennaConfirmed: false });
    await namedAs('nothing-goes-out', 'locked');
    await at.api.patch('/settings', { antennaConfirmed: true });
    await at.api.put('/hold', { held: true });
    await namedAs('nothing-goes-out', 'held');
  });

  it('sees a path that asks nobody, or one who was not heard', async () => {
    const [{ config }] = (await at.api.get<{ config: object }[]>('/bearers')) as [{ config: object }];
    await at.api.patch(`/bearers/${RADIO}`, { config: { ...config, path: [] } });
    expect(await seen()).toMatchObject({ path: 'nobody' });
    await at.api.patch(`/bearers/${RADIO}`, { config: { ...config, path: ['QT0TH-3'] } });
    expect(await seen()).toMatchObject({ path: 'named' });
    at.modem.hear('QT0TH-3>APRS:>Tarn Head');
    await eventually(async () => (await seen()).path === 'general');
  });

  it('sees a gateway on the air, and that we were repeated', async () => {
    at.modem.hear('QT1GW-10>APRS:!4112.42N/04325.26W&Gateway');
    await eventually(async () => (await seen()).gateway === 'yes');
    await at.api.patch('/settings', { position: { latitude: 41.269, longitude: -43.285 } });
    expect(await seen()).toMatchObject({ fix: 'yes' });
    expect(await seen()).not.toHaveProperty('reports');
    // That something else is somewhere says nothing of us.
    const thing = { form: 'object', name: 'AID', latitude: 41.2, longitude: -43.2, symbol: '/+', comment: '' };
    const out = { bearerId: RADIO, path: [], everyMin: 10, revision: null };
    await at.api.put(`/own-objects/${randomUUID()}`, { ...thing, ...out });
    await eventually(() => at.modem.sent.length === 1);
    expect(await seen()).not.toHaveProperty('reports');
    await at.api.post('/position-reports', { id: randomUUID(), bearerId: RADIO, path: ['WIDE1-1'], ambiguity: 2 });
    await eventually(() => at.modem.sent.length === 2);
    await eventually(async () => (await seen()).reports === 'yes');
    expect(await seen()).toMatchObject({ blanks: 'yes' });
    at.modem.hear('QT2AR-7>APZTOM,QT0BR-1*:=4116.  N/04317.  W[');
    await eventually(async () => (await seen()).octets === 'frames');
    await eventually(async () => (await seen()).repeated === 'yes');
    expect(await seen()).toMatchObject({ gated: 'yes', busy: 'yes' });
  });
});

describe('what the station sees of channel, sets and mesh', () => {
  it('is that the channel is free, and that no set on the list scans', async () => {
    expect(await seen()).not.toHaveProperty('load');
    at.modem.hear('QT1NC>APRS:>Net control');
    await eventually(async () => (await seen()).load === 'no');
    expect(await seen()).not.toHaveProperty('scan');
    const radio = {
      kind: 'radio',
      name: 'Set',
      bandsMHz: [],
      powerW: 5,
      receivers: 1,
      modem: null,
      positionFrom: 'none',
    };
    await at.api.put(`/equipment/${randomUUID()}`, { ...radio, scans: false });
    expect(await seen()).toMatchObject({ scan: 'no' });
    await at.api.put(`/equipment/${randomUUID()}`, { ...radio, scans: true });
    expect(await seen()).not.toHaveProperty('scan');
  });

  it('is a key that differs: packets of other nodes come, and none of them can be read', async () => {
    const node = await startMeshNode(OWN_NODE, FARM_NODE, RELIEF.name);
    try {
      const channels = [{ name: RELIEF.name, key: Buffer.from(RELIEF.key).toString('base64'), kept: false }];
      await insertBearer(at.station.context, 'mesh', 'Mesh', meshConfig(node.port, OWN_NODE, { channels }));
      await at.station.context.bearersChanged();
      await eventually(async () => (await seen())['mesh-node'] === 'yes');
      const [note] = (await at.api.get<Seen[]>('/ready/seen')).filter(({ testId }) => testId === 'mesh-time');
      expect(note).toMatchObject({ outcomeId: null, words: expect.stringMatching(/expected by \d\d:\d\dZ\.$/) });
      const text = { kind: 'text' as const, n: '1', text: 'Where are you' };
      const other = { ...RELIEF, key: new Uint8Array(32).fill(9) };
      await node.hear({ addressee: EVERYBODY, content: text, channel: other });
      await eventually(async () => (await seen())['mesh-frames'] === 'sealed');
      const state = checkState(ruleBaseOf('mesh-empty'), { ...(await seen()), ...SAFE });
      const left = state.is === 'contradiction' ? [] : state.possible.map(({ causeId }) => causeId);
      expect(left.sort()).toEqual(['mesh-key', 'mesh-young']);
      // What can be read once has the right key.
      await node.hear({ addressee: EVERYBODY, content: { ...text, n: '2' }, channel: RELIEF });
      await eventually(async () => (await seen())['mesh-frames'] === 'readable');
    } finally {
      await node.stop();
    }
  });
});

describe('what the station sees of the last text that nobody acknowledged', () => {
  /** Written to QT6CL, sent, and heard repeated. */
  const repeated = async () => {
    await at.api.post('/items', textTo('QT6CL', 'Are you there', { path: ['WIDE1-1'] }));
    await eventually(() => at.modem.sent.length > 0);
    at.modem.hear(at.lines()[0]!.replace('WIDE1-1', 'QT0BR-1*'));
    await eventually(async () => 'heard' in (await seen()));
  };

  it('is whether its addressee is there, and under which SSID', async () => {
    expect(await seen()).not.toHaveProperty('heard');
    await repeated();
    expect(await seen()).toMatchObject({ heard: 'no' });
    expect(await seen()).not.toHaveProperty('takes-texts');
    at.modem.hear('QT6CL-9>APRS:>In the car');
    await eventually(async () => (await seen()).ssid === 'no');
    expect(checkState(ruleBaseOf('never-acknowledged'), await seen())).toMatchObject({
      is: 'verdict',
      possible: [{ causeId: 'other-ssid' }],
    });
    at.modem.hear('QT6CL>APRS::QT2AR-7  :Good morning');
    await eventually(async () => (await seen()).heard === 'yes');
    expect(await seen()).toMatchObject({ ssid: 'yes', 'takes-texts': 'yes' });
    expect(await seen()).not.toHaveProperty('theirs');
    // Once it is acknowledged there is nothing to find.
    const [, number] = /\{(\w+)/.exec(at.lines()[0]!)!;
    at.modem.hear(`QT6CL>APRS::QT2AR-7  :ack${number}`);
    await eventually(async () => !('heard' in (await seen())));
  });

  it('is who wrote to another SSID of ours', async () => {
    at.modem.hear('QT1NC>APRS::QT2AR-7  :To this one');
    at.modem.hear('QT1NC>APRS::QT2AR-9  :To the other one{1');
    const told = async () =>
      (await at.api.get<Seen[]>('/ready/seen')).find(({ testId }) => testId === 'own-ssid') ?? null;
    await eventually(async () => (await told())?.words.startsWith('One text from QT1NC to QT2AR-9 was heard on '));
    expect((await told())!.outcomeId).toBeNull();
    // The same text tried again is no other text.
    at.aheadMs = 60_000;
    at.modem.hear('QT1NC>APRS::QT2AR-9  :To the other one{1');
    await eventually(async () => {
      const rows = await at.station.context.database.query<unknown[]>(
        `select 1 from packet where addressee = 'QT2AR-9'`,
      );
      return rows.length === 2;
    });
    expect((await told())!.outcomeId).toBeNull();
    at.modem.hear('QT1NC>APRS::QT2AR-11 :Are you there?');
    await eventually(async () => (await told())?.outcomeId === 'no');
    expect((await told())!.words).toMatch(
      /^2 texts from QT1NC were heard, the last to QT2AR-11 on [\d-]{10} at \d\d:\d\dZ, and none to you since\.$/,
    );
    // Who has found the right one since is not in the wrong.
    at.modem.hear('QT1NC>APRS::QT2AR-7  :To this one again');
    await eventually(async () => !('own-ssid' in (await seen())));
  });
});

describe('what is seen, with what somebody answers, names the fault', () => {
  /** What is left when somebody answers these besides. */
  const left = async (symptom: SymptomId, answers: Record<string, string>) => {
    const state = checkState(ruleBaseOf(symptom), { ...(await seen()), ...SAFE, ...answers });
    return state.is === 'contradiction' ? [] : state.possible.map(({ causeId }) => causeId);
  };

  it('of what is never repeated: its path asks nobody', async () => {
    const [{ config }] = (await at.api.get<{ config: object }[]>('/bearers')) as [{ config: object }];
    await at.api.patch(`/bearers/${RADIO}`, { config: { ...config, path: [] } });
    await namedAs('never-repeated', 'no-path');
  });

  it('of a position that is not shown: the receiver is silent', async () => {
    const line = await openPtyLine(4800);
    try {
      await at.api.patch('/settings', { positionSource: { by: 'serial', device: line.device, speedBd: 4800 } });
      await eventually(async () => (await seen()).fix === 'no');
      await eventually(async () => {
        at.aheadMs += 5_000;
        return (await seen()).sentences === 'nothing';
      });
      expect((await left('position-not-shown', {})).sort()).toEqual(['receiver-off', 'swapped-lines']);
      expect(await left('position-not-shown', { 'receiver-on': 'yes' })).toEqual(['swapped-lines']);
      expect(await left('position-not-shown', { 'receiver-on': 'no', repeated: 'no' })).toEqual(['receiver-off']);
    } finally {
      await line.stop();
    }
  });

  it('of a wrong place: digits were left blank', async () => {
    await at.api.patch('/settings', { position: { latitude: 41.269, longitude: -43.285 } });
    await at.api.post('/position-reports', { id: randomUUID(), bearerId: RADIO, path: ['WIDE1-1'], ambiguity: 2 });
    await namedAs('wrong-place', 'blanked');
  });

  it('of messages that do not come: the others write to another SSID', async () => {
    at.modem.hear('QT1NC>APRS::QT2AR-9  :Where are you?');
    at.modem.hear('QT1NC>APRS::QT2AR-9  :Come to the school');
    await namedAs('nothing-comes', 'own-ssid');
  });
});

describe('checks that were kept', () => {
  const run = (more: object = {}) => ({
    id: randomUUID(),
    symptom: 'nothing-goes-out',
    answers: { mark: 'no', wireless: 'yes' },
    found: 'wireless-stopped',
    fixed: true,
    ...more,
  });

  it('are there once each, the last first, and counted where they were right', async () => {
    const first = run();
    await Promise.all([1, 2, 3].map(() => at.api.post('/ready/runs', first)));
    await at.api.post('/ready/runs', run({ fixed: false }));
    await at.api.post('/ready/runs', run({ symptom: 'mail-ends', found: 'not-listed' }));
    const { runs, counted } = await at.api.get<CheckRuns>('/ready/runs');
    expect(runs.map(({ symptom, fixed }) => [symptom, fixed])).toEqual([
      ['mail-ends', true],
      ['nothing-goes-out', false],
      ['nothing-goes-out', true],
    ]);
    expect(counted).toEqual({ 'nothing-goes-out': { 'wireless-stopped': 1 }, 'mail-ends': { 'not-listed': 1 } });
  });

  it('are refused where they say nothing', async () => {
    for (const wrong of [{ symptom: 'headache' }, { found: '' }, { answers: { mark: 'a b' } }, { fixed: 'perhaps' }])
      expect(await at.api.post('/ready/runs', run(wrong))).toMatchObject({ status: 422 });
  });
});

describe('causes that operators add', () => {
  const fuse: NewOwnCause = {
    symptom: 'nothing-goes-out',
    words: 'The fuse of the truck is blown',
    remedy: 'Change it',
    question: 'Is the light of the truck dark too?',
    costS: 20,
    weight: 3,
  };
  const put = (body: object, id: string = randomUUID()) => at.api.put(`/ready/causes/${id}`, body) as Promise<OwnCause>;

  it('are kept, changed, asked for by the check, and go', async () => {
    const kept = await put(fuse);
    await put({ ...fuse, weight: 5 }, kept.id);
    const own = await at.api.get<OwnCause[]>('/ready/causes');
    expect(own).toEqual([{ ...fuse, weight: 5, id: kept.id }]);
    const state = checkState(ruleBaseOf('nothing-goes-out', own), { ...SAFE, [`own-${kept.id}`]: 'yes' });
    expect(state.is === 'verdict' && state.possible[0]!.causeId).toBe(kept.id);
    expect((await at.api.send(`/ready/causes/${kept.id}`, { method: 'DELETE' })).status).toBe(204);
    expect((await at.api.send(`/ready/causes/${kept.id}`, { method: 'DELETE' })).status).toBe(404);
  });

  it('are refused where they cannot be', async () => {
    for (const wrong of [{ weight: 0 }, { costS: 0 }, { question: '' }, { symptom: 'headache' }, { words: 'a\nb' }])
      expect(await put({ ...fuse, ...wrong })).toMatchObject({ status: 422 });
    expect(await at.api.get('/ready/causes')).toEqual([]);
  });
});

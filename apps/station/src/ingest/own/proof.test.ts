import { decodeFrame, encodeKiss, encodeFrame, frameOfPacket, latin1OfOctets } from '@tombolo/core';
import type { ImportView, ItemDetail, ItemSummary, PacketDetail, PacketSummary } from '@tombolo/contract';
import type { Station } from '../../station';
import {
  answersAreOut,
  createDatabase,
  eventually,
  itemWhen,
  startModem,
  startWithModem,
  type Api,
  type FakeModem,
} from '../../testing/harness';
import { textTo } from '../../testing/written';
import { startLineFeed } from '../../testing/line-feed';

const OWN = 'QT2AR-7';
let database: Awaited<ReturnType<typeof createDatabase>>;
let modem: FakeModem;
let station: Station & { api: Api };
let api: Api;
/** By how much the station's clock is ahead of the machine's. */
let laterMs = 0;
beforeEach(async () => {
  database = await createDatabase();
  modem = await startModem();
  laterMs = 0;
  station = await startWithModem(
    database.url,
    modem,
    { retry: { firstS: 600, factor: 1, capS: 600, tries: 2, jitter: 0 } },
    { now: () => Date.now() + laterMs },
  );
  ({ api } = station);
});
afterEach(async () => {
  await station.stop();
  await modem.stop();
  await database.drop();
});

/** A text that went out; gives it with its number. */
async function sent(body: string, more: Parameters<typeof textTo>[2] = {}) {
  const text = textTo('QT4LB-8', body, more);
  await api.post('/items', text);
  const { number } = await itemWhen(api, text.id, (item) => item.status.rung === 'sent');
  return { id: text.id, number: number! };
}
const received = async () => (await api.get<{ rows: ItemSummary[] }>('/items?direction=in')).rows;
/** What is heard in order is stored in order: when this one has arrived, whatever came before has had its effect. */
async function storedUpToHere() {
  const body = `Mark ${Math.random()}`;
  modem.hear(`QT1NC>APRS::${OWN}  :${body}`);
  await eventually(async () => (await received()).some((item) => item.body === body));
}
const importLines = async (lines: readonly string[], startedAt: Date) => {
  const answer = await api.send(`/imports?name=old&format=monitor&startedAt=${startedAt.toISOString()}`, {
    method: 'POST',
    headers: { 'content-type': 'application/octet-stream' },
    body: lines.join('\n'),
  });
  return (await answer.json()) as ImportView;
};
const rungOf = async (id: string) => (await api.get<ItemDetail>(`/items/${id}`)).status.rung;

describe('an acknowledgement', () => {
  it('of yesterday proves nothing about a text of today; one of a recording that fits in time does', async () => {
    const { id, number } = await sent('Pump runs');
    const ack = `QT4LB-8>APRS::${OWN}  :ack${number}`;
    const old = await importLines([ack], new Date(Date.now() - 24 * 3_600_000));
    expect(old).toMatchObject({ understood: 1 });
    expect(await rungOf(id)).toBe('sent');
    // Neither does one that was heard before the text went out.
    await importLines([`${ack} `], new Date(Date.now() - 600_000));
    expect(await rungOf(id)).toBe('sent');
    await importLines([`${ack}  `], new Date());
    await itemWhen(api, id, (item) => item.status.rung === 'delivered');
  });

  it('that comes hours later proves nothing: by then the number may stand for another text', async () => {
    const { id, number } = await sent('Pump runs');
    const ack = `QT4LB-8>APRS::${OWN}  :ack${number}`;
    await importLines([ack], new Date(Date.now() + 121 * 60_000));
    expect(await rungOf(id)).toBe('sent');
    await importLines([`${ack} `], new Date(Date.now() + 119 * 60_000));
    await itemWhen(api, id, (item) => item.status.rung === 'delivered');
  });

  it('that was wrapped counts only when the gateway signed for it (Protocol Reference 1.0.1, ch. 17)', async () => {
    const { id, number } = await sent('Pump runs');
    modem.hear(`QT9ZZ>APRS:}QT4LB-8>APRS,TCPIP,QT1GW-10*::${OWN}  :ack${number}`);
    await storedUpToHere();
    expect(await rungOf(id)).toBe('sent');
    modem.hear(`QT1GW-10>APRS:}QT4LB-8>APRS,TCPIP,QT1GW-10*::${OWN}  :ack${number} `);
    const delivered = await itemWhen(api, id, (item) => item.status.rung === 'delivered');
    expect(delivered.status.proof!.note).toContain('by internet to QT1GW-10, which passed it on');
  });

  it('over a feed counts when a gateway heard it by radio, or had our text', async () => {
    const feed = await startLineFeed(station);
    const { say } = feed;
    const storedFromFeed = async (body: string) => {
      say(`QT1NC>APRS,TCPIP*::${OWN}  :${body}`);
      await eventually(async () => (await received()).some((item) => item.body === body));
    };
    const first = await sent('Pump runs');
    say(`QT4LB-8>APRS,TCPIP*,qAC,SRV::${OWN}  :ack${first.number}`);
    await storedFromFeed('Mark 1');
    expect(await rungOf(first.id)).toBe('sent');
    say(`QT4LB-8>APRS,QT0TH-3*,qAR,QT1GW-10::${OWN}  :ack${first.number} `);
    await itemWhen(api, first.id, (item) => item.status.rung === 'delivered');

    const second = await sent('Pump stands');
    say(`${OWN}>APZTOM,WIDE1-1,WIDE2-1,qAR,QT1GW-10::QT4LB-8  :Pump stands{${second.number}`);
    const gated = await itemWhen(api, second.id, (item) => item.status.rung === 'relayed');
    // A gateway that had it did not repeat it.
    expect(gated.status.words).toBe('the gateway QT1GW-10 says that it had it; not acknowledged yet');
    say(`QT4LB-8>APRS,TCPIP*,qAC,SRV::${OWN}  :ack${second.number}`);
    await itemWhen(api, second.id, (item) => item.status.rung === 'delivered');
    await feed.stop();
  });

  it('rides on a text: that acknowledges, and does not answer (1.1 addendum)', async () => {
    const { id, number } = await sent('Pump runs');
    modem.hear(`QT4LB-8>APRS::${OWN}  :Something else{07}${number}`);
    const item = await itemWhen(api, id, (candidate) => candidate.status.rung === 'delivered');
    expect(item.evidence.map(({ kind }) => kind)).not.toContain('answered');
  });
});

describe('a text to us', () => {
  it('that its sender repeats inside the window of copies is acknowledged again; copies over digipeaters are not', async () => {
    const text = `QT1NC>APRS::${OWN}  :Roll call{5`;
    modem.hear(text);
    await eventually(() => modem.sent.length === 1);
    await answersAreOut(station);
    modem.hear(text.replace('APRS:', 'APRS,QT0BR-1*:'));
    await storedUpToHere();
    expect(modem.sent).toHaveLength(1);
    // 20 s on: digipeaters would still drop it, so the sender did it.
    laterMs = 20_000;
    modem.hear(text);
    await eventually(() => modem.sent.length === 2);
    expect(latin1OfOctets(modem.sent[1]!)).toContain(':ack5');
    expect((await received()).filter(({ body }) => body === 'Roll call')).toHaveLength(1);
  });
});

describe('words that read like an answer to a number', () => {
  it('are a text when nothing was sent with that number', async () => {
    const { id, number } = await sent('Shall we come?');
    for (const word of ['reject', 'rejoin', 'acknowledged', 'ack9Z9Z9']) {
      modem.hear(`QT4LB-8>APRS::${OWN}  :${word}`);
      await eventually(async () => (await received()).some(({ body }) => body === word));
    }
    expect(await rungOf(id)).toBe('sent');
    modem.hear(`QT4LB-8>APRS::${OWN}  :rej${number}`);
    await itemWhen(api, id, (item) => item.status.outcome === 'refused');
    expect((await received()).map(({ body }) => body)).not.toContain(`rej${number}`);
  });
});

describe('numbers of texts', () => {
  it('do not come round while an answer to the earlier one may still come', async () => {
    const { number } = await sent('One');
    // As if 1 295 more had been given away since.
    await station.context.database.query(`select count(nextval('message_number')) from generate_series(1, 1295)`);
    const two = await sent('Two');
    expect(two.number).not.toBe(number);
  });
});

describe('the road of our own packet', () => {
  const heardBack = (path: { call: string; used: boolean }[]) => {
    const frame = decodeFrame(modem.sent.at(-1)!);
    if (!frame.ok) throw new Error(frame.error.reason);
    const octets = frameOfPacket({ source: OWN, destination: 'APZTOM', path, info: frame.value.info });
    const encoded = octets.ok ? encodeFrame(octets.value) : octets;
    if (!encoded.ok) throw new Error(encoded.error.reason);
    modem.hearOctets(encodeKiss(encoded.value));
  };
  it('keeps a digipeater that did not sign, as the H bits have it', async () => {
    const { id } = await sent('Pump runs');
    heardBack([
      { call: 'WIDE1', used: true },
      { call: 'WIDE2-1', used: false },
    ]);
    const relayed = await itemWhen(api, id, (item) => item.status.rung === 'relayed');
    expect(relayed.status.words).toBe('relayed by a digipeater that did not sign; not acknowledged yet');
    expect(relayed.causeway!.strips.map(({ state }) => state)).toEqual(['heard', 'sent', 'planned']);
    expect(relayed.causeway!.stones.map(({ label }) => label)).toEqual([
      OWN,
      'a digipeater that did not sign',
      'WIDE2-1',
      'QT4LB-8',
    ]);
  });
  it('is known to be repeated when its count went down without a mark', async () => {
    const { id } = await sent('Pump runs', { path: ['WIDE2-2'] });
    heardBack([{ call: 'WIDE2-2', used: false }]);
    await storedUpToHere();
    expect(await rungOf(id)).toBe('sent');
    heardBack([{ call: 'WIDE2-1', used: false }]);
    await itemWhen(api, id, (item) => item.status.rung === 'relayed');
  });
  it('skips what a digipeater out of turn left untouched', async () => {
    const { id } = await sent('Pump runs', { path: ['QT0BR-1', 'QT0TH-3'] });
    heardBack([
      { call: 'QT0BR-1', used: false },
      { call: 'QT0TH-3', used: true },
    ]);
    const relayed = await itemWhen(api, id, (item) => item.status.rung === 'relayed');
    expect(relayed.status.words).toBe('relayed by QT0TH-3; not acknowledged yet');
    const { rows } = await api.get<{ rows: PacketSummary[] }>(`/packets?station=${OWN}`);
    const packet = await api.get<PacketDetail>(`/packets/${rows[0]!.id}`);
    const said = packet.copies[0]!.statements;
    expect(said.find(({ words }) => words === 'QT0TH-3 passed it on.')).toMatchObject({ certain: true });
    expect(said.some(({ words }) => words.startsWith('QT0BR-1 passed'))).toBe(false);
    // Nobody stood between, or what stands in front would bear a mark.
    expect(said.find(({ words }) => words === `QT0TH-3 heard ${OWN}.`)).toMatchObject({ certain: true });
  });
});

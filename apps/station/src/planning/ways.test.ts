import { randomUUID } from 'node:crypto';
import { BOARD_PROFILES, decodeFrame, latin1OfOctets } from '@tombolo/core';
import type { ItemDetail, PredictionsView, WaysQuestion, WaysView } from '@tombolo/contract';
import { eachWithModem, eventually, itemWhen } from '../testing/harness';
import { listPerson } from '../testing/listed';
import { keepServices, PHONE } from '../testing/services';
import { textTo } from '../testing/written';

const at = eachWithModem();
const waysTo = (to: string, more: Partial<WaysQuestion> = {}) =>
  at.api.post<WaysView>('/ways', { to, text: 'Water is rising', ...more });

let packets = 0;
/** A beacon of its own each time: a copy would be one packet. */
const beacon = (source: string, path = 'WIDE1-1') => at.modem.hear(`${source}>APZTMB,${path}:>status ${packets++}`);
const receptions = (n: number) =>
  eventually(async () => {
    const [row] = await at.station.context.database.query<[{ n: number }]>('select count(*)::int as n from reception');
    return row.n >= n;
  });
const numberOf = (frame: Uint8Array) => {
  const decoded = decodeFrame(frame);
  return /\{(\w+)\}?\w*$/.exec(decoded.ok ? latin1OfOctets(decoded.value.info) : '')?.[1] ?? '';
};

describe('the ways to somebody', () => {
  it('are a guess while nothing was heard, and say so', async () => {
    const { ways } = await waysTo('qt1nc');
    expect(ways[0]).toMatchObject({
      basis: 'map',
      sentences: [
        expect.stringMatching(/^By packet radio to QT1NC, direct: about /),
        expect.stringMatching(/^A guess/),
      ],
      send: { to: 'QT1NC', way: { by: 'packets', path: [] } },
      tries: { answered: 0, unanswered: 0, inSilence: 0 },
    });
    expect(ways[0]!.arrives.high - ways[0]!.arrives.low).toBeGreaterThan(0.5);
    // Nobody knows that call: half of the doubt goes once it is noted as somebody's.
    expect(ways[0]!.sentences[1]).toContain('QT1NC was never heard here: is the call right?');
    await listPerson(at.api, 'Net control', { call: 'QT1NC' });
    const noted = (await waysTo('QT1NC')).ways[0]!;
    expect(noted.arrives.chance).toBeGreaterThan(1.5 * ways[0]!.arrives.chance);
    expect(noted.sentences[1]).not.toContain('never heard here');
    expect(await waysTo('Nobody at all')).toMatchObject({
      person: null,
      ways: [],
      excluded: [{ reason: expect.stringContaining('list of people'), remedy: expect.any(String) }],
    });
  });

  it('rest on what was heard, opened down to how often, and a flood raises nobody', async () => {
    const before = (await waysTo('QT1NC')).ways[0]!;
    for (let n = 0; n < 6; n++) beacon('QT1NC');
    await receptions(6);
    const heard = (await waysTo('QT1NC')).ways[0]!;
    expect(heard.arrives.chance).toBeGreaterThan(before.arrives.chance);
    const hop = ({ rests }: WaysView['ways'][number]) => rests.find(({ from }) => from === 'QT2AR-7')!.chance;
    expect(hop(heard).high - hop(heard).low).toBeLessThan(hop(before).high - hop(before).low);
    expect(heard).toMatchObject({ basis: 'evidence', strips: [{ from: 'you', to: 'QT1NC', seen: true }] });
    expect(heard.rests.find(({ from }) => from === 'QT1NC')).toMatchObject({ to: 'QT2AR-7', heard: 6, missed: 0 });
    expect(heard.rests.find(({ from }) => from === 'QT2AR-7')).toMatchObject({ heard: 0, heardBack: 6 });
    for (let n = 0; n < 200; n++) beacon('QT1NC');
    await receptions(206);
    const flooded = (await waysTo('QT1NC')).ways[0]!;
    expect(flooded.rests.find(({ from }) => from === 'QT1NC')).toMatchObject({ heard: 206 });
    // It takes the channel, which helps nobody.
    expect(flooded.arrives.chance).toBeLessThan(heard.arrives.chance + 0.005);
  });

  it('know what was missed: a repeat without the packet itself proves that there was something to hear', async () => {
    for (let n = 0; n < 5; n++) beacon('QT6CL', 'QT0TH-3*,WIDE2-1');
    beacon('QT0TH-3');
    await receptions(6);
    const { ways } = await waysTo('QT6CL');
    const [surest] = ways;
    // Over the digipeater that brought it, not direct.
    expect(surest).toMatchObject({ send: { way: { by: 'packets', path: ['WIDE1-1'] } } });
    expect(surest!.rests.find(({ from, to }) => from === 'QT6CL' && to === 'QT2AR-7')).toMatchObject({
      heard: 0,
      missed: 5,
    });
    expect(surest!.rests.find(({ from, to }) => from === 'QT0TH-3' && to === 'QT2AR-7')).toMatchObject({
      heard: 1,
      inferred: 5,
    });
    // What was only missed is no link that was heard.
    const links = await at.api.get<{ from: string; by: string }[]>('/heard-links');
    expect(links.some(({ from, by }) => from === 'QT6CL' && by === 'QT2AR-7')).toBe(false);
  });

  it('change when a digipeater that was heard steadily falls silent, with the reason', async () => {
    // Every two minutes, and the clinic over it, for half an hour.
    for (let n = 0; n < 15; n++) {
      at.aheadMs += 120_000;
      beacon('QT0TH-3');
      beacon('QT6CL', 'QT0TH-3*,WIDE2-1');
      await receptions(2 * n + 2);
    }
    const before = (await waysTo('QT6CL')).ways[0]!;
    expect(before.send.way).toMatchObject({ path: ['WIDE1-1'] });
    at.aheadMs += 25 * 60_000;
    const after = (await waysTo('QT6CL')).ways[0]!;
    expect(after.arrives.chance).toBeLessThan(before.arrives.chance - 0.3);
    expect(after.sentences[1]).toMatch(
      /QT0TH-3 was heard every \d+ \w+ and is silent for 25 min: it may be off, or nothing is heard here any more\./,
    );
    // When others are heard meanwhile it is not our receiver.
    beacon('QT1NC');
    await receptions(31);
    expect((await waysTo('QT6CL')).ways[0]!.sentences[1]).toMatch(/QT0TH-3 .* is silent for 25 min: it may be off\./);
    // One packet of it is enough to bring it back.
    beacon('QT0TH-3');
    await receptions(32);
    const again = (await waysTo('QT6CL')).ways[0]!;
    expect(again.sentences[1]).not.toContain('QT0TH-3 was heard');
    expect(again.arrives.chance).toBeGreaterThan(after.arrives.chance + 0.2);
  });

  it('tell what is left of each where the first fails: whoever is away is so by every path', async () => {
    for (let n = 0; n < 4; n++) {
      beacon('QT6CL');
      beacon('QT0TH-3');
      beacon('QT6CL', 'QT0TH-3*,WIDE2-1');
    }
    await receptions(12);
    const [first, ...others] = (await waysTo('QT6CL')).ways;
    expect(first!.afterFirst).toBeNull();
    expect(others.length).toBeGreaterThan(0);
    for (const { afterFirst, arrives } of others) {
      expect(afterFirst!).toBeGreaterThan(0);
      expect(afterFirst!).toBeLessThan(0.9 * arrives.chance);
    }
  });

  it('are the worse the more of our own tries nobody answered, and what was expected is kept and judged', async () => {
    for (let n = 0; n < 3; n++) beacon('QT1NC');
    await receptions(3);
    // As often as the text below goes out.
    await at.api.patch('/settings', { mostTries: 3 });
    const before = (await waysTo('QT1NC')).ways[0]!;
    const text = textTo('QT1NC', 'Is anybody there?', { path: [] });
    await at.api.post<ItemDetail>('/items', text);
    const item = await itemWhen(at.api, text.id, ({ status }) => status.outcome === 'expired', 20);
    const detail = await at.api.get<ItemDetail>(`/items/${item.id}`);
    const [kept] = Object.values(detail.predictions);
    expect(kept).toMatchObject({
      basis: 'evidence',
      rests: expect.arrayContaining([expect.stringContaining('QT2AR-7 to QT1NC')]),
    });
    // As of before it was sent.
    expect(kept!.proven.chance).toBeCloseTo(before.proof!.proven.chance, 1);
    at.aheadMs = 61_000;
    const after = (await waysTo('QT1NC')).ways[0]!;
    expect(after.arrives.chance).toBeLessThan(before.arrives.chance);
    expect(after.tries).toEqual({ answered: 0, unanswered: 3, inSilence: 0 });
    // Until an answer may no longer come it is open.
    expect(await at.api.get<PredictionsView>('/predictions')).toMatchObject({ all: { count: 0 }, open: 1 });
    at.aheadMs = 130_000;
    expect(await at.api.get<PredictionsView>('/predictions')).toMatchObject({
      all: { count: 1, brier: expect.closeTo(kept!.proven.chance ** 2, 6) },
      byBearer: [{ name: 'packet radio', count: 1 }],
      byBasis: [
        { name: 'evidence', count: 1 },
        { name: 'map', count: 0 },
      ],
      open: 0,
    });
  });

  it('are hardly the worse for what was sent while they were away, once they are heard again', async () => {
    // Every ten minutes for two hours, and from five hours later on.
    for (let n = 0; n < 12; n++) {
      at.aheadMs += 600_000;
      beacon('QT1NC');
      await receptions(n + 1);
    }
    at.aheadMs += 150 * 60_000;
    const text = textTo('QT1NC', 'Is anybody there?', { path: [] });
    await at.api.post<ItemDetail>('/items', text);
    await itemWhen(at.api, text.id, ({ status }) => status.outcome === 'expired', 20);
    at.aheadMs += 60_000;
    const away = (await waysTo('QT1NC')).ways[0]!;
    at.aheadMs += 149 * 60_000;
    for (let n = 0; n < 20; n++) beacon('QT1NC');
    await receptions(32);
    const back = (await waysTo('QT1NC')).ways[0]!;
    expect(back.tries.unanswered).toBeGreaterThanOrEqual(2);
    expect(back.tries.inSilence).toBe(back.tries.unanswered);
    expect(back.works!).toBeGreaterThan(0.6);
    expect(away.works!).toBeLessThan(0.2);
  });

  it('are the better for an answer', async () => {
    at.modem.onSent((frame) => {
      const number = numberOf(frame);
      if (number !== '') at.modem.hear(`QT1NC>APZTMB::QT2AR-7  :ack${number}`);
    });
    const before = (await waysTo('QT1NC')).ways[0]!;
    const text = textTo('QT1NC', 'Are you there?', { path: [] });
    await at.api.post<ItemDetail>('/items', text);
    await itemWhen(at.api, text.id, ({ status }) => status.rung === 'delivered');
    const after = (await waysTo('QT1NC')).ways[0]!;
    expect(after.proof!.proven.chance).toBeGreaterThan(before.proof!.proven.chance);
    expect(after.tries).toEqual({ answered: 1, unanswered: 0, inSilence: 0 });
    // It waits as long as one that nobody answered would.
    expect(await at.api.get<PredictionsView>('/predictions')).toMatchObject({ all: { count: 0 }, open: 1 });
    at.aheadMs = 130_000;
    const { all } = await at.api.get<PredictionsView>('/predictions');
    expect(all).toMatchObject({ count: 1, bins: [{ count: 1, happened: 1 }] });
    // A second text is predicted by itself, the first one not again.
    await at.api.post<ItemDetail>('/items', text);
    expect((await at.api.get<PredictionsView>('/predictions')).all.count).toBe(1);
  });

  it('can be asked about first, where that tells something that the text itself does not tell as cheaply', async () => {
    // An answer to the question teaches what an answer to a text does.
    at.modem.onSent((frame) => {
      const number = numberOf(frame);
      if (number === '') return;
      at.modem.hear(`QT1NC>APZTMB::QT2AR-7  :ack${number}`);
      at.modem.hear('QT1NC>APZTMB::QT2AR-7  :PATH= QT2AR-7>APZTOM');
    });
    await listPerson(at.api, 'Net control', { call: 'QT1NC' });
    const { askFirst } = await waysTo('QT1NC', { text: '' });
    expect(askFirst).toMatchObject({
      text: '?APRST',
      ways: 1,
      send: { to: 'QT1NC', way: { by: 'packets', path: [], askAcknowledgement: true } },
    });
    expect(askFirst!.settles).toBeGreaterThan(0.05);
    expect(askFirst!.settles).toBeLessThan(0.9);
    expect((await waysTo('QT1NC', { text: 'Short' })).askFirst).toBeNull();
    const long = { text: 'A list of everybody at the school and of what they need. '.repeat(2) };
    expect((await waysTo('QT1NC', long)).askFirst).toMatchObject({ send: { to: 'QT1NC', inParts: false } });
    // What is urgent is sent.
    expect((await waysTo('QT1NC', { ...long, precedence: 'priority' })).askFirst).toBeNull();
    // A service is not asked about somebody else's phone.
    await keepServices(at.api, { ...PHONE, reached: 'behind QT1GW-10' });
    await listPerson(at.api, 'Ferry Office', { phone: '+00 555 0142' });
    expect(await waysTo('ferry office', long)).toMatchObject({ askFirst: null, ways: [expect.anything()] });

    const before = (await waysTo('QT1NC')).ways[0]!;
    const question = textTo('QT1NC', askFirst!.text, { path: [] });
    await at.api.post<ItemDetail>('/items', question);
    await itemWhen(at.api, question.id, ({ status }) => status.rung === 'delivered');
    const after = (await waysTo('QT1NC')).ways[0]!;
    expect(after.proof!.proven.chance).toBeGreaterThan(before.proof!.proven.chance + 0.1);
    expect(after.tries).toEqual({ answered: 1, unanswered: 0, inSilence: 0 });
  });

  it('of somebody with a phone alone lead over the service, with what rules ask, and where a guess begins', async () => {
    await keepServices(at.api, { ...PHONE, reached: 'behind QT1GW-10' });
    await listPerson(at.api, 'Ferry Office', { phone: '+00 555 0142' });
    for (let n = 0; n < 4; n++) beacon('QT1GW-10');
    await receptions(4);
    const { ways, person } = await waysTo('ferry office');
    expect(person).toBe('Ferry Office');
    expect(ways[0]).toMatchObject({
      strips: [
        { from: 'you', to: 'TELTXT', seen: true },
        { from: 'TELTXT', to: 'Ferry Office', seen: false },
      ],
      proof: { rung: 'accepted' },
      send: {
        to: 'TELTXT',
        command: { service: 'TELTXT', command: 'text', values: { to: '005550142', text: 'Water is rising' } },
      },
      cautions: expect.arrayContaining([expect.stringMatching(/no licence.*No agreement is noted/)]),
    });
    // That the service has it is no proof that it arrived.
    expect(ways[0]!.sentences[0]).toMatch(/; \d+ of 100 are proved as far as TELTXT\.$/);
    // The gateway was heard, not the service.
    expect(ways[0]!.rests.some(({ heard }) => heard === 4)).toBe(true);
    // The address of a service is no call that may be mistyped: what is kept is what was told.
    expect(ways[0]!.sentences[1]).not.toContain('never heard here');
    const { way, to, command } = ways[0]!.send;
    const id = randomUUID();
    const content = { is: 'command', command: command!.command, values: command!.values };
    await at.api.post<ItemDetail>('/items', { id, addressee: { is: 'address', address: to }, content, way });
    const { predictions } = await itemWhen(at.api, id, (item) => Object.keys(item.predictions).length === 1);
    expect(Object.values(predictions)[0]!.proven.chance).toBeCloseTo(ways[0]!.proof!.proven.chance, 2);
  });

  it('over a board wait for the window in which it forwards', async () => {
    const hour = (new Date(Date.now() + at.aheadMs).getUTCHours() + 12) % 24;
    const forwardsAt = `${String(hour).padStart(2, '0')}:00`;
    const config = { kind: 'board', over: 'radio', call: 'QT1BB-4', profile: BOARD_PROFILES[0] };
    const { id } = await at.api.post<{ id: string }>('/bearers', {
      name: 'Board',
      config: { ...config, forwardsEveryMin: 1440, forwardsAt },
    });
    const overBoard = async (more: Partial<WaysQuestion> = {}) =>
      (await waysTo('qt6cl@qt6bb-4', more)).ways.find(({ send: { way } }) => way.by === 'messages');
    const daily = (await overBoard())!;
    expect(daily.send).toMatchObject({ way: { by: 'messages', bearerId: id }, to: 'QT6CL@QT6BB-4' });
    expect(daily.cautions.join(' ')).toContain(
      `QT1BB-4 forwards every 1440 min, next at ${forwardsAt} UTC; that QT6BB-4 is among those it forwards to is taken for granted.`,
    );
    expect(daily.expectedS).toBeGreaterThan(11 * 3600);
    // Left in time, and not forwarded in time.
    expect(await overBoard({ withinMin: 8 * 60 })).toBeUndefined();
    expect((await waysTo('qt6cl@qt6bb-4', { withinMin: 8 * 60 })).excluded).toContainEqual(
      expect.objectContaining({ remedy: 'Give it more time.' }),
    );
    await at.api.patch(`/bearers/${id}`, { config: { ...config, forwardsEveryMin: 20, forwardsAt: null } });
    const often = (await overBoard())!;
    expect(often.expectedS).toBeLessThan(daily.expectedS - 6 * 3600);
    expect(await overBoard({ withinMin: 8 * 60 })).toBeDefined();
    // At the board itself nothing is forwarded.
    expect((await waysTo('QT6CL@QT1BB-4')).ways[0]!.cautions.join(' ')).not.toContain('forwards');
  });

  it('that do not go say why, and what would bring them back', async () => {
    await at.api.patch('/settings', { licenceConfirmed: false });
    expect(await waysTo('QT1NC')).toMatchObject({
      ways: [],
      excluded: [{ title: 'Radio', reason: expect.stringMatching(/licence/i), remedy: 'Answer this in Settings.' }],
    });
    await at.api.patch('/settings', { licenceConfirmed: true });
    expect(await waysTo('QT1NC', { text: 'x'.repeat(5000) })).toMatchObject({
      ways: [],
      excluded: [{ reason: expect.stringContaining('5000 characters'), remedy: expect.stringContaining('mail') }],
    });
    await at.api.patch('/bearers/radio', { enabled: false });
    expect(await waysTo('QT1NC')).toMatchObject({ ways: [], excluded: [{ reason: 'It is switched off.' }] });
    await at.api.patch('/bearers/radio', { enabled: true });
    await eventually(async () => (await waysTo('QT1NC')).ways.length > 0);
    await at.modem.stop();
    const down = await eventually(async () => {
      const view = await waysTo('QT1NC');
      return view.ways.length === 0 && view;
    });
    expect(down.excluded).toMatchObject([{ remedy: expect.stringContaining('waits until it is connected again') }]);
  });

  it('take hostile questions: no time at all, too much of everything, no name', async () => {
    const bad = [
      { to: '' },
      { to: 'x'.repeat(255) },
      { to: 'QT1NC', withinMin: -5 },
      { to: 'QT1NC', withinMin: 1e9 },
      {},
    ];
    for (const body of bad) expect(await at.api.post('/ways', body)).toMatchObject({ status: 422 });
    // In a moment nothing arrives, and that is said.
    const soon = await waysTo('QT1NC', { withinMin: 0.001 });
    expect(soon.ways).toEqual([]);
    expect([...new Set(soon.excluded.map(({ remedy }) => remedy))]).toEqual(['Give it more time.']);
    for (const to of ["Robert'); drop table leg;--", '\u0000', '%_%', '🜁'.repeat(60)])
      expect((await waysTo(to)).ways).toEqual([]);
  });
});

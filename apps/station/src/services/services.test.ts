import { randomUUID } from 'node:crypto';
import type { ItemDetail, KeptService, NewItem, ServiceText, TransmissionView } from '@tombolo/contract';
import { eachWithModem, eventually, itemWhen } from '../testing/harness';
import { DESK, keepServices, PHONE } from '../testing/services';
import { textTo } from '../testing/written';

const at = eachWithModem();
type Answer<T> = T & { status?: number | object; title?: string; detail?: string };

const command = (address: string, id: string, values: Record<string, string>, more: object = {}): NewItem => ({
  id: randomUUID(),
  addressee: { is: 'address', address },
  content: { is: 'command', command: id, values, ...more },
  way: { by: 'packets', bearerId: 'radio', path: ['WIDE1-1'], askAcknowledgement: true },
});
const phone = (to: string, text: string) => command('teltxt', 'text', { to, text });
const post = (item: NewItem) => at.api.post<Answer<ItemDetail>>('/items', item);
/** Posts it, and waits until it went out. */
const out = async (item: NewItem) => {
  await post(item);
  return itemWhen(at.api, item.id!, ({ status }) => status.rung === 'sent');
};
let number = 0;
const said = (service: string, text: string) =>
  at.modem.hear(`QT1GW-10>APRS:}${service}>APRS,TCPIP,QT1GW-10*::QT2AR-7  :${text}{${++number}`);
const arrived = (words: string): Promise<ItemDetail> =>
  eventually(async () => {
    const { rows } = await at.api.get<{ rows: ItemDetail[] }>('/items?direction=in');
    const found = rows.find(({ body }) => body === words);
    return found && at.api.get<ItemDetail>(`/items/${found.id}`);
  });
const kinds = async (id: string) => (await at.api.get<ItemDetail>(`/items/${id}`)).evidence.map(({ kind }) => kind);

describe('the directory', () => {
  const put = (service: object, revision: number | null) =>
    at.api.put<Answer<KeptService>>('/services/TELTXT', { service, revision });

  it('is kept, changed by who looked at it last, and taken off', async () => {
    expect(await at.api.get('/services')).toEqual([]);
    expect(await put(PHONE, null)).toMatchObject({ address: 'TELTXT', revision: 1, reached: '' });
    expect(await put({ ...PHONE, name: 'Phones' }, 1)).toMatchObject({ name: 'Phones', revision: 2 });
    expect(await put({ ...PHONE, name: 'Other' }, 1)).toMatchObject({ status: 409, title: 'Somebody else changed it' });
    expect(await at.api.get('/services')).toMatchObject([{ name: 'Phones' }]);
    expect(await put({ ...PHONE, address: 'ELSE' }, 2)).toMatchObject({ status: 422 });
    expect((await at.api.send('/services/teltxt', { method: 'DELETE' })).status).toBe(204);
    expect((await at.api.send('/services/TELTXT', { method: 'DELETE' })).status).toBe(404);
    expect(await put(PHONE, 2)).toMatchObject({ status: 409, title: 'It is not there any more' });
  });

  it('takes nothing that cannot be used, and of a file all or nothing', async () => {
    expect(await put({ ...PHONE, answers: [{ pattern: '(', proves: 'taken' }] }, null)).toMatchObject({
      status: 422,
      detail: expect.stringMatching(/^TELTXT: the pattern “\(” cannot be used/),
    });
    const broken = { ...DESK, commands: [{ ...DESK.commands[0]!, template: 'WHERE {who}' }] };
    expect(await keepServices(at.api, PHONE, broken)).toMatchObject({ status: 422 });
    expect(await keepServices(at.api, PHONE, PHONE)).toMatchObject({ status: 422 });
    expect(await at.api.get('/services')).toEqual([]);
    expect(await keepServices(at.api, PHONE, DESK)).toMatchObject([{ address: 'ASKDSK' }, { address: 'TELTXT' }]);
    expect(await at.api.get('/services/schema')).toMatchObject({ properties: { services: { type: 'array' } } });
  });
});

describe('a command to a service', () => {
  beforeEach(() => keepServices(at.api, PHONE, DESK));

  it('goes out in the words of the directory, and is refused in words before that', async () => {
    const item = await out(phone('+00 555 0142', 'When does\nit run?'));
    expect(item).toMatchObject({
      addressee: 'TELTXT',
      body: '005550142: When does it run?',
      command: { address: 'TELTXT', command: 'text', values: { to: '005550142', text: 'When does it run?' } },
    });
    expect(at.lines()[0]).toMatch(/^QT2AR-7>APZTOM,WIDE1-1::TELTXT {3}:005550142: When does it run\?\{/);
    expect(await post(phone('ferry', 'x'))).toMatchObject({
      status: 422,
      detail: 'Phone number: “f” is no digit. Nothing was queued.',
    });
    expect(await post(command('TELTXT', 'call', {}))).toMatchObject({
      status: 422,
      title: 'That service is not there any more',
    });
    expect(await post(command('QT1NC', 'text', {}))).toMatchObject({ status: 422 });
    expect(at.modem.sent).toHaveLength(1);
  });

  it('is told apart by what its answer says', async () => {
    const [ferry, clinic] = [await out(phone('005550142', 'Ferry?')), await out(phone('005550177', 'Clinic?'))];
    said('TELTXT', 'Text to 005550142 taken');
    await itemWhen(at.api, ferry.id, ({ status }) => status.rung === 'handed on');
    expect(await kinds(clinic.id)).not.toContain('handed on');
    // Taken further it needs nobody.
    expect((await arrived('Text to 005550142 taken')).filedAt).not.toBeNull();
    said('TELTXT', '005550177: Yes, at noon');
    const answered = await itemWhen(at.api, clinic.id, ({ status }) => status.rung === 'answered');
    expect(answered.evidence.find(({ kind }) => kind === 'answered')).toMatchObject({ by: '005550177' });
    expect(await kinds(ferry.id)).not.toContain('answered');
    expect(await arrived('005550177: Yes, at noon')).toMatchObject({
      filedAt: null,
      question: { id: clinic.id, command: { address: 'TELTXT', command: 'text', values: { to: '005550177' } } },
    });
  });

  it('that fits as well as another one stays open with it, until somebody says which is meant', async () => {
    const items = [await out(phone('005550142', 'One')), await out(phone('005550177', 'Two'))];
    said('TELTXT', 'Not sent: no such number');
    const word = await arrived('Not sent: no such number');
    expect(word.mayAnswer.map(({ id }) => id).sort()).toEqual(items.map(({ id }) => id).sort());
    expect(word).toMatchObject({ filedAt: null });
    for (const { id } of items) expect(await kinds(id)).not.toContain('refused');
    const say = (question: string) => at.api.put<Answer<ItemDetail>>(`/items/${word.id}/question`, { question });
    expect(await say(randomUUID())).toMatchObject({ status: 409 });
    expect(await say(items[1]!.id)).toMatchObject({ mayAnswer: [], filedAt: expect.any(String) });
    expect(
      (await at.api.get<ItemDetail>(`/items/${items[1]!.id}`)).evidence.find(({ kind }) => kind === 'refused'),
    ).toMatchObject({
      by: 'TELTXT',
      note: expect.stringContaining('that it belongs here was said at this station'),
    });
    // Two who say so at once: one of them is told.
    expect(await say(items[0]!.id)).toMatchObject({ status: 409 });
    expect(await kinds(items[0]!.id)).not.toContain('refused');
    // One is left open: the next refusal is its own.
    said('TELTXT', 'Not sent: the network is full');
    await itemWhen(at.api, items[0]!.id, ({ evidence }) => evidence.some(({ kind }) => kind === 'refused'));
  });

  it('answered by nobody’s words, too late, or in another service’s words, proves nothing', async () => {
    const item = await out(phone('005550142', 'Ferry?'));
    said('ASKDSK', 'Text to 005550142 taken');
    said('TELTXT', 'Good morning');
    said('TELTXT', 'Text to 005550199 taken');
    // Whoever says so without a gateway is not the service.
    at.modem.hear('QT9XX>APRS::QT2AR-7  :Text to 005550142 taken{7');
    await arrived('Text to 005550199 taken');
    expect(await kinds(item.id)).toEqual(['queued', 'intended', 'sent']);
    at.aheadMs = 2 * 3600_000;
    said('TELTXT', 'Text to 005550142 taken now');
    await arrived('Text to 005550142 taken now');
    expect(await kinds(item.id)).not.toContain('handed on');
  });

  it('that nobody answers is waited for no longer than until it was taken', async () => {
    const group = { id: 'group', title: 'Group', kind: 'group' as const };
    await keepServices(at.api, {
      address: 'ROLLCL',
      name: 'Groups',
      purpose: 'Groups',
      commands: [{ id: 'in', title: 'Join', fields: [group], template: 'IN {group}' }],
      answers: [{ pattern: '^You are in (?<group>[A-Z]+)', proves: 'taken' }],
    });
    const joined = await out(command('ROLLCL', 'in', { group: 'soundnet' }));
    said('ROLLCL', 'You are in SOUNDNET with 3 others');
    const item = await itemWhen(at.api, joined.id, ({ status }) => status.rung === 'handed on');
    expect(item.status).toMatchObject({ wouldProve: null, waitUntil: null });
    const phoned = await out(phone('005550142', 'Ferry?'));
    said('TELTXT', 'Text to 005550142 taken');
    const taken = await itemWhen(at.api, phoned.id, ({ status }) => status.rung === 'handed on');
    expect(taken.status.wouldProve).not.toBeNull();
  });

  it('written by hand is answered as well, by what stands in it', async () => {
    const [one, other] = [textTo('TELTXT', '005550142: by hand'), textTo('TELTXT', '005550177: by hand')];
    await out(one);
    await out(other);
    said('TELTXT', 'Text to 005550142 taken');
    await itemWhen(at.api, one.id!, ({ status }) => status.rung === 'handed on');
    expect(await kinds(other.id!)).not.toContain('handed on');
  });

  it('goes behind our position where the service uses it; without one nothing is queued', async () => {
    const asked = command('ASKDSK', 'where', { call: 'QT4LB-8' }, { positionFirst: true });
    await out(asked);
    expect(at.lines()).toEqual([
      expect.stringMatching(/^QT2AR-7>APZTOM,WIDE1-1:=4116\./),
      expect.stringMatching(/:ASKDSK {3}:WHERE QT4LB-8\{/),
    ]);
    const { rows } = await at.api.get<{ rows: TransmissionView[] }>('/transmissions');
    expect(rows).toHaveLength(1);
    said('ASKDSK', 'QT4LB-8 is at 41 10.00N 043 20.00W, 3 min ago');
    const item = await itemWhen(at.api, asked.id!, ({ status }) => status.rung === 'answered');
    expect(item.evidence.find(({ kind }) => kind === 'answered')).toMatchObject({ by: 'ASKDSK' });
    await at.api.patch('/settings', { position: null });
    const unplaced = command('ASKDSK', 'where', { call: 'QT4LB-8' }, { positionFirst: true });
    expect(await post(unplaced)).toMatchObject({ status: 409, title: 'It is not known where this station is' });
    expect(await at.api.get(`/items/${unplaced.id}`)).toMatchObject({ status: 404 });
  });
});

describe('what a service said', () => {
  it('is listed with the pattern that knows it, and others are tried on it', async () => {
    await keepServices(at.api, PHONE, DESK);
    await out(phone('005550142', 'Ferry?'));
    for (const text of ['Text to 005550142 taken', 'Held over until 1400', 'Held over until 1500'])
      said('TELTXT', text);
    await arrived('Held over until 1500');
    // Told by one modem within a moment: their order is not known.
    const texts = (await at.api.get<ServiceText[]>('/services/TELTXT/texts')).sort((a, b) =>
      a.text < b.text ? -1 : 1,
    );
    expect(texts.map(({ text, known }) => [text, known])).toEqual([
      ['Held over until 1400', null],
      ['Held over until 1500', null],
      ['Text to 005550142 taken', 0],
    ]);
    expect(texts[0]!.asked).toEqual({ to: '005550142', text: 'Ferry?' });
    const tried = (pattern: string) =>
      at.api.post<Answer<{ matches: string[]; of: number }>>('/services/TELTXT/trials', { pattern });
    const { matches, of } = await tried('^Held over until \\d+$');
    expect({ matches: matches.sort(), of }).toEqual({ matches: [texts[0]!.id, texts[1]!.id].sort(), of: 3 });
    expect(await tried('(a')).toMatchObject({ status: 422, title: 'That is no pattern' });
    // Of a service that nobody entered the texts are there to learn from.
    said('NEWSVC', 'Hello');
    await arrived('Hello');
    expect(await at.api.get('/services/NEWSVC/texts')).toMatchObject([{ text: 'Hello', known: null, asked: null }]);
  });
});

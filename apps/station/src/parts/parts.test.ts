import type { ItemDetail } from '@tombolo/contract';
import { joinParts, readPart } from '@tombolo/core';
import { eachWithModem, eventually, itemWhen } from '../testing/harness';
import { textTo } from '../testing/written';
import { askForParts } from './ask-turn';

const at = eachWithModem();
const OTHER = 'QT6CL';
const LONG =
  'The generator runs for 6 hours more. We need 40 vials of insulin, kept below 8 degrees, and somebody who can carry two people down the stairs.';

const write = (body: string, more: Parameters<typeof textTo>[2] = {}) => {
  const item = textTo(OTHER, body, { path: [], ...more });
  return { ...item, content: { is: 'text' as const, body, inParts: true } };
};
type Answer = ItemDetail & { status: ItemDetail['status'] | number; detail?: string };
const listed = async (direction: 'in' | 'out') => {
  const { rows } = await at.api.get<{ rows: ItemDetail[] }>('/items');
  return rows.filter((row) => row.direction === direction);
};
/** What went out to the other, in order, without acknowledgements and the numbers. */
const texts = () => at.lines().flatMap((line) => /::QT6CL\s*:(?!ack)(.*?)(?:\{\w+\}?\w*)?$/.exec(line)?.[1] ?? []);
let number = 0;
const say = (text: string) => at.modem.hear(`${OTHER}>APZTOM::QT2AR-7  :${text}{${++number}`);
const arrivedOf = (n: number) =>
  eventually(async () => {
    const rows = await listed('in');
    return rows.length === n && rows;
  });

describe('a long text', () => {
  it('goes out in parts, in order, each with its own acknowledgement, and is one to look at', async () => {
    const item = write(LONG);
    const answer = await at.api.post<Answer>('/items', item);
    expect(answer).toMatchObject({
      id: item.id,
      body: '(1/3a) The generator runs for 6 hours more. We need 40 vials of',
    });
    // Some are tried again meanwhile.
    await eventually(() => new Set(texts()).size === 3, 20);
    const sent = [...new Set(texts())].map((text) => readPart(text)!);
    expect(joinParts(sent).text).toBe(LONG);
    expect(sent.map(({ n }) => n)).toEqual([1, 2, 3]);
    const { parts } = await at.api.get<ItemDetail>(`/items/${item.id}`);
    expect(parts).toMatchObject({ set: 'a', n: 1, of: 3, text: LONG, missing: [] });
    const all = await Promise.all(parts!.items.map(({ id }) => at.api.get<ItemDetail>(`/items/${id}`)));
    expect(new Set(all.map(({ number: of }) => of)).size).toBe(3);
    expect(all.map(({ parts: of }) => of!.n)).toEqual([1, 2, 3]);
    // Pressed twice it is one; the next has the next letter.
    await at.api.post('/items', item);
    expect(await listed('out')).toHaveLength(3);
    const next = write(LONG);
    expect((await at.api.post<Answer>('/items', next)).body).toMatch(/^\(1\/3b\) /);
  });

  it('of which one fits stays one, and one that would be too many is refused whole', async () => {
    expect((await at.api.post<Answer>('/items', write('Short'))).body).toBe('Short');
    expect(await at.api.post<Answer>('/items', write('word '.repeat(1000)))).toMatchObject({
      status: 422,
      detail: expect.stringContaining('9 parts'),
    });
    expect(await at.api.post<Answer>('/items', write(`${LONG} a|b`))).toMatchObject({ status: 422 });
    expect(await at.api.post<Answer>('/items', textTo(OTHER, LONG))).toMatchObject({ status: 422 });
    expect(await listed('out')).toHaveLength(1);
  });

  it('has a part sent again that the other asks for, at most three times, and not one that is on its way', async () => {
    const item = write(LONG, { askAcknowledgement: false });
    await at.api.post('/items', item);
    await eventually(() => at.modem.sent.length === 3, 20);
    const { parts } = await at.api.get<ItemDetail>(`/items/${item.id}`);
    const second = parts!.items[1]!.id;
    await itemWhen(at.api, second, ({ status }) => status.rung === 'sent');
    for (let times = 1; times <= 4; times++) {
      at.aheadMs += 60_000;
      say('again 2/3a');
      await arrivedOf(times);
      const sent = Math.min(times, 3);
      await eventually(() => texts().filter((text) => text.startsWith('(2/3a)')).length === 1 + sent, 20);
      await itemWhen(
        at.api,
        second,
        ({ evidence }) => evidence.filter(({ kind }) => kind === 'sent').length === 1 + sent,
      );
    }
    const seen = await at.api.get<ItemDetail>(`/items/${second}`);
    const asked = seen.evidence.filter(({ kind }) => kind === 'asked again');
    expect(asked.map(({ by }) => by)).toEqual([OTHER, OTHER, OTHER, OTHER]);
    expect(asked[0]!.packetId).not.toBeNull();
    expect(asked[3]!.note).toContain('3 times already');
    expect(texts().filter((text) => text.startsWith('(2/3a)'))).toHaveLength(4);
    // What asked needs nobody, and leads to what it asked for.
    const [row] = await listed('in');
    expect(await at.api.get(`/items/${row!.id}`)).toMatchObject({ heap: 'filed', question: { id: second } });
  });

  it('is not counted as sent again where it was asked for before its turn, and not sent where it was cancelled', async () => {
    await at.api.patch('/settings', { retry: { firstS: 60, factor: 1, capS: 60, tries: 3, jitter: 0 } });
    await at.api.put('/hold', { held: true });
    const item = write(LONG);
    await at.api.post('/items', item);
    const { parts } = await at.api.get<ItemDetail>(`/items/${item.id}`);
    const [first, second, third] = parts!.items.map(({ id }) => id);
    const asked = async (id: string) =>
      (await at.api.get<ItemDetail>(`/items/${id}`)).evidence.flatMap(({ kind, note }) =>
        kind === 'asked again' ? [note] : [],
      );
    for (let times = 1; times <= 4; times++) {
      say('again 2,3/3a');
      await arrivedOf(times);
    }
    expect(await asked(second!)).toEqual(Array(4).fill('it had not been sent yet'));
    await at.api.post(`/items/${third}/actions`, { action: 'cancel' });
    await at.api.put('/hold', { held: false });
    await eventually(() => new Set(texts()).size === 2, 20);
    await itemWhen(at.api, second!, ({ status }) => status.rung === 'sent');
    const before = texts().length;
    at.aheadMs += 5000;
    say('again 2,3/3a');
    await arrivedOf(5);
    await eventually(
      () =>
        texts()
          .slice(before)
          .some((text) => text.startsWith('(2/3a)')),
      20,
    );
    expect((await asked(second!)).at(-1)).toBeNull();
    expect((await asked(third!)).at(-1)).toBe('not sent: it was cancelled');
    expect(texts().some((text) => text.startsWith('(3/3a)'))).toBe(false);
    expect(await asked(first!)).toEqual([]);
  });

  it('is not sent again for whoever asks on and on', async () => {
    const nine = 'word '.repeat(100);
    await at.api.post('/items', write(nine, { askAcknowledgement: false }));
    await at.api.post('/items', write(LONG, { askAcknowledgement: false }));
    await eventually(() => texts().length === 12, 40);
    at.aheadMs += 5000;
    say('again 1,2,3,4,5,6,7,8,9/9a');
    await eventually(() => texts().length === 21, 40);
    say('again 1,2,3/3b');
    await arrivedOf(2);
    const [first] = (await listed('out')).filter(({ body }) => body.startsWith('(1/3b)'));
    const { evidence } = await itemWhen(at.api, first!.id, (item) =>
      item.evidence.some(({ kind }) => kind === 'asked again'),
    );
    expect(evidence.find(({ kind }) => kind === 'asked again')!.note).toContain('too much was asked for');
    // The automatic account is not what holds it: nothing of it was queued.
    const legs = await at.station.context.database.query<unknown[]>('select 1 from leg where item_id = $1', [
      first!.id,
    ]);
    expect(legs).toHaveLength(1);
  }, 120_000);

  it('has nothing sent again for somebody whom it was not for, or that it never had', async () => {
    await at.api.post('/items', write(LONG, { askAcknowledgement: false }));
    await eventually(() => at.modem.sent.length === 3, 20);
    at.modem.hear('QT1NC>APZTOM::QT2AR-7  :again 2/3a{91');
    say('again 2/4a');
    say('again 2/3b');
    const rows = await arrivedOf(3);
    expect(rows.map(({ heap }) => heap)).toEqual(['needs you', 'needs you', 'needs you']);
    expect(texts()).toHaveLength(3);
  });

  it('that comes is put together in any order, and what is missing is asked for once', async () => {
    await at.api.patch('/settings', { answerQueries: true });
    for (const part of ['(3/3k) three.', '(1/3k) One', '(1/3k) One']) say(part);
    const rows = await arrivedOf(3);
    const whole = () => at.api.get<ItemDetail>(`/items/${rows[0]!.id}`);
    expect((await whole()).parts).toMatchObject({ text: 'One … three.', missing: [2] });
    await askForParts(at.station.context);
    expect(texts().filter((text) => text.startsWith('again'))).toEqual([]);
    at.aheadMs += 91_000;
    await Promise.all([askForParts(at.station.context), askForParts(at.station.context)]);
    await eventually(() => texts().includes('again 2/3k'), 20);
    at.aheadMs += 91_000;
    await askForParts(at.station.context);
    say('(2/3k) two,');
    await arrivedOf(4);
    expect((await whole()).parts).toMatchObject({ text: 'One two, three.', missing: [] });
    expect(texts().filter((text) => text.startsWith('again'))).toEqual(['again 2/3k']);
    const all = await Promise.all(rows.map(({ id }) => at.api.get<ItemDetail>(`/items/${id}`)));
    expect(all.flatMap(({ evidence }) => evidence).map(({ kind }) => kind)).toContain('asked again');
  });

  describe('that came', () => {
    const rows = async () => (await listed('in')).reverse();
    const needing = async () => (await rows()).filter(({ heap }) => heap === 'needs you').map(({ body }) => body);
    const came = (n: number) =>
      eventually(async () => {
        const all = await rows();
        return all.length === n && all;
      });
    const act = (id: string, action: string) => at.api.post(`/items/${id}/actions`, { action });

    it('asks for one answer, shows all that is there, and is filed as one', async () => {
      say('(1/3k) One');
      const [first] = await came(1);
      expect(first!.whole).toEqual({ text: 'One … …', of: 3, there: 1 });
      say('(3/3k) three.');
      say('(2/3k) two,');
      const [lead, ...others] = await came(3);
      expect(await needing()).toEqual(['(1/3k) One']);
      expect(lead).toMatchObject({ whole: { text: 'One two, three.', of: 3, there: 3 } });
      // Its row is shown anew, though it came first.
      expect(lead!.revision).toBeGreaterThan(first!.revision);
      expect(others.map(({ heap, whole }) => [heap, whole])).toEqual(Array(2).fill(['arrived', null]));
      // What came while it is filed was perhaps not seen.
      await act(lead!.id, 'file');
      expect((await rows()).map(({ heap }) => heap).sort()).toEqual(['arrived', 'filed', 'needs you']);
      await act(lead!.id, 'unfile');
      at.aheadMs += 6000;
      await act(lead!.id, 'file');
      expect((await rows()).map(({ heap }) => heap)).toEqual(Array(3).fill('filed'));
      await act(lead!.id, 'unfile');
      expect((await rows()).map(({ heap }) => heap)).toEqual(['needs you', 'arrived', 'arrived']);
      // One that is filed by itself says nothing of the others.
      await act(others[1]!.id, 'file');
      expect(await needing()).toEqual(['(1/3k) One']);
      const changed = await at.api.post<{ changed: string[] }>('/items/filing', { ids: [lead!.id], filed: true });
      expect(changed.changed.sort()).toEqual([lead!.id, others[0]!.id].sort());
    });

    it('asks for another where a part comes behind the answer, or another text with the same letter', async () => {
      say('(1/2k) One');
      const [lead] = await came(1);
      await at.api.post('/items', textTo(OTHER, 'Understood', { path: [], answers: lead!.id }));
      await eventually(async () => (await needing()).length === 0);
      at.aheadMs += 60_000;
      say('(2/2k) two.');
      const [, second] = await came(2);
      expect(await needing()).toEqual(['(2/2k) two.']);
      expect(second!.whole).toEqual({ text: 'One two.', of: 2, there: 2 });
      say('(1/2k) Something else');
      await came(3);
      expect(await needing()).toEqual(['(2/2k) two.', '(1/2k) Something else']);
      const [, , third] = await rows();
      expect((await at.api.get<ItemDetail>(`/items/${third!.id}`)).parts).toMatchObject({
        text: 'Something else …',
        missing: [2],
      });
      // An answer to any part is one to the text.
      await at.api.post('/items', textTo(OTHER, 'Yes', { path: [], answers: second!.id }));
      await eventually(async () => (await needing()).length === 1);
    });
  });

  it('is not asked for where the station does not answer by itself', async () => {
    say('(1/2c) One');
    await arrivedOf(1);
    at.aheadMs += 91_000;
    await askForParts(at.station.context);
    at.aheadMs += 91_000;
    await askForParts(at.station.context);
    expect(texts()).toEqual([]);
  });
});

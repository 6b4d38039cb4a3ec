import { randomUUID } from 'node:crypto';
import { setUpSheet, type KeptPiece } from '@tombolo/core';
import { planOf, type BearerView, type PieceChange, type Settings } from '@tombolo/contract';
import { eachWithModem } from '../testing/harness';
import { readBack } from '../testing/pdf';

const at = eachWithModem();
const RADIO: PieceChange = {
  kind: 'radio',
  name: 'Hand-held “A”',
  bandsMHz: [{ fromMHz: 144, toMHz: 148 }],
  powerW: 5,
  receivers: 2,
  modem: { receiver: 1, onAirBd: 1200, txDelayMs: 400, stopsWithWireless: true },
  positionFrom: 'own',
  scans: true,
};
const kept = async (piece: PieceChange = RADIO): Promise<string> => {
  const id = randomUUID();
  await at.api.put(`/equipment/${id}`, piece);
  return id;
};
const sheet = async (id: string, query = '') => {
  const answer = await at.api.send(`/equipment/${id}/sheet.pdf${query}`);
  expect(answer.headers.get('content-type')).toBe('application/pdf');
  return readBack(new Uint8Array(await answer.arrayBuffer()));
};
const flat = (text: string) => text.replace(/\s+/g, ' ');

describe('a set-up sheet as a document', () => {
  it('says all that the sheet says, in its order, with who ticked what for this value', async () => {
    const id = await kept();
    const settings = await at.api.get<Settings>('/settings');
    const bearers = await at.api.get<BearerView[]>('/bearers');
    const pieces = await at.api.get<KeptPiece[]>('/equipment');
    const plan = planOf({ who: '', symbol: settings.symbol, reports: 'hand' }, settings, bearers);
    const lines = setUpSheet(pieces[0]!, pieces, plan);
    expect(lines.length).toBeGreaterThan(8);
    const tick = { holder: 'QT2AR-7', done: true, by: 'XY' };
    const delay = lines.find(({ id: line }) => line === 'tx-delay')!;
    await at.api.post(`/equipment/${id}/ticks`, { ...tick, id: randomUUID(), line: delay.id, value: delay.value });
    // One for another value does not hold.
    await at.api.post(`/equipment/${id}/ticks`, {
      ...tick,
      id: randomUUID(),
      line: 'path',
      value: 'WIDE2-2',
      by: 'ZZ',
    });
    const { text, info } = await sheet(id);
    const read = flat(text);
    const places = lines.map(({ what, value }) => read.indexOf(flat(`${what}: ${value}`)));
    expect(places.every((place) => place >= 0)).toBe(true);
    expect(places).toEqual([...places].sort((a, b) => a - b));
    for (const { why, right } of lines) {
      expect(read).toContain(flat(why));
      expect(read).toContain(`Right when: ${flat(right)}`);
    }
    expect(read).toMatch(/Ticked by XY, \d{4}-\d\d-\d\d \d\d:\d\dZ/);
    expect(read).not.toContain('ZZ');
    expect(read).not.toContain('differs');
    expect(info).toMatch(/Title:\s+Hand-held “A”, for QT2AR-7/);
    expect(info).toMatch(/Page size:\s+595\.28 x 841\.89 pts \(A4\)/);
  });

  it('is made for somebody with the same set, with what differs and without our ticks', async () => {
    const id = await kept();
    const line = { line: 'antenna', value: 'connected', done: true, by: 'XY', holder: 'QT2AR-7' };
    await at.api.post(`/equipment/${id}/ticks`, { ...line, id: randomUUID() });
    const { text } = await sheet(id, '?who=qt7sh-5&reports=moves');
    expect(flat(text)).toMatch(/What differs from our own sheet Own call sign: QT7SH-5; ours: QT2AR-7/);
    expect(text).not.toContain('Ticked by');
    expect((await at.api.send(`/equipment/${id}/sheet.pdf?who=qt7sh-99`)).status).toBe(422);
    expect((await at.api.send(`/equipment/${id}/sheet.pdf?symbol=x`)).status).toBe(422);
    expect((await at.api.send(`/equipment/${randomUUID()}/sheet.pdf`)).status).toBe(404);
  });

  it('of what has no settings says so', async () => {
    const id = await kept({ kind: 'cell', name: 'Cell', capacityAh: 7, voltageV: 12 });
    expect(flat((await sheet(id)).text)).toContain('Nothing has to be keyed into it.');
  });
});

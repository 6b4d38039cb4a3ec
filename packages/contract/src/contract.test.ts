import { z } from 'zod';
import {
  defaultSettings,
  newText,
  ownStation,
  settings,
  transmitLocks,
  bearerConfig,
  heardQuery,
  threshold,
  trailView,
} from './index';

const draft = {
  id: '7b0f5c8e-5a54-4f6e-9d0e-0d8d3f3a8a10',
  addressee: 'qt4lb-8 ',
  body: 'Fuel low',
  askAcknowledgement: true,
  path: ['WIDE1-1'],
  bearerId: 'radio',
};

describe('the contract', () => {
  it('raises an addressee to upper case and fills defaults', () => {
    expect(newText.parse(draft)).toMatchObject({ addressee: 'QT4LB-8', precedence: 'routine', answers: null });
  });
  it.each([
    [{ addressee: 'TOO LONG A CALL' }],
    [{ body: 'a|b' }],
    [{ body: 'N'.repeat(68) }],
    [{ path: ['wide1-1'] }],
    [{ path: Array(9).fill('WIDE1-1') }],
    [{ id: 'x' }],
  ])('refuses %j with a reason', (change) => {
    const result = newText.safeParse({ ...draft, ...change });
    expect(result.success).toBe(false);
    expect(result.error?.issues[0]?.message).toBeTruthy();
  });
  it('checks the own call', () => {
    expect(settings.safeParse({ ...defaultSettings, call: 'qt2ar' }).data?.call).toBe('QT2AR');
    for (const call of ['NOCALL', 'QT2AR-7', '12'])
      expect(settings.safeParse({ ...defaultSettings, call }).success).toBe(false);
  });
  it('holds the transmitter until call, licence and antenna are answered', () => {
    expect(transmitLocks(defaultSettings)).toHaveLength(3);
    const open = { ...defaultSettings, call: 'QT2AR', licenceConfirmed: true, antennaConfirmed: true };
    expect(transmitLocks(open)).toEqual([]);
    expect(ownStation(open)).toBe('QT2AR-7');
    expect(ownStation({ ...open, ssid: 0 })).toBe('QT2AR');
  });
  it('takes bearers and filters apart', () => {
    expect(bearerConfig.safeParse({ kind: 'kiss-tcp', host: '127.0.0.1', port: 8001 }).success).toBe(true);
    expect(bearerConfig.safeParse({ kind: 'kiss-tcp', host: 'a b', port: 8001 }).success).toBe(false);
    expect(heardQuery.parse({ limit: '20' })).toEqual({ limit: 20 });
    expect(heardQuery.safeParse({ before: "1' or 1=1" }).success).toBe(false);
  });
});

describe('a trail', () => {
  it('is a list of whole steps, and says so to whoever reads the description', () => {
    expect(trailView.safeParse({ call: 'QT3TK-14', steps: [-4_343_300, 4_121_950, 3, -2] }).success).toBe(true);
    for (const steps of [[0.5], ['1'], [1, null], { 0: 1 }, 'none', [Infinity]])
      expect(trailView.safeParse({ call: 'QT3TK-14', steps }).success).toBe(false);
    expect(z.toJSONSchema(trailView, { unrepresentable: 'any' })).toMatchObject({
      properties: { steps: { type: 'array', items: { type: 'integer' } } },
    });
  });
});

describe('a threshold', () => {
  it('takes any limit of a value, but minutes from 1 to 2880 of silence', () => {
    const of = (when: string, limit: number) => threshold.safeParse({ when, limit, withinHours: 1 }).success;
    expect([of('above', -40), of('falls by', 0.3), of('silent for', 1), of('silent for', 2880)]).toEqual(
      Array(4).fill(true),
    );
    expect([of('silent for', 0.5), of('silent for', 2881), of('above', 1e7), of('over', 1)]).toEqual(
      Array(4).fill(false),
    );
  });
});

describe('what a station says of itself', () => {
  it('fits a status report, octet by octet, and is drawn by a table and a code', () => {
    const accepts = (change: object) => settings.safeParse({ ...defaultSettings, ...change }).success;
    expect(accepts({ statusText: 'x'.repeat(62) })).toBe(true);
    // Two octets each in UTF-8.
    expect(accepts({ statusText: 'é'.repeat(31) })).toBe(true);
    expect(accepts({ statusText: 'é'.repeat(32) })).toBe(false);
    for (const statusText of ['a|b', 'a~b', 'a\nb', 'a\u0007b']) expect(accepts({ statusText })).toBe(false);
    expect(accepts({ symbol: '\\n' })).toBe(true);
    for (const symbol of ['', '/', 'xx', '/>>']) expect(accepts({ symbol })).toBe(false);
  });
});

import { z } from 'zod';
import {
  defaultSettings,
  newItem,
  ownStation,
  settings,
  transmitLocks,
  bearerConfig,
  heardQuery,
  threshold,
  trailView,
} from './index';

const written = {
  id: '7b0f5c8e-5a54-4f6e-9d0e-0d8d3f3a8a10',
  addressee: { is: 'address', address: 'qt4lb-8 ' },
  content: { is: 'text', body: 'Fuel low' },
  way: { by: 'packets', bearerId: 'radio', path: ['WIDE1-1'], askAcknowledgement: true },
} as const;
const to = (address: string) => ({ addressee: { is: 'address', address } });
const text = (body: string) => ({ content: { is: 'text', body } });
const message = { is: 'message', bulletin: false, subject: 'Count', body: 'Sixty' };
const mail = { is: 'mail', subject: 'Count', body: 'Sixty' };
const everybody = { addressee: { is: 'everybody' } };
const by = (way: 'texts' | 'messages' | 'mail') => ({ way: { by: way, bearerId: 'x', channel: 'Sound' } });

describe('the contract', () => {
  it('raises a call to upper case and fills defaults', () => {
    expect(newItem.parse(written)).toMatchObject({ ...to('QT4LB-8'), precedence: 'routine', answers: null });
  });
  it.each([
    [{ ...by('texts'), ...to('01D1-0005') }],
    [{ ...by('texts'), ...everybody, ...text('N'.repeat(231)) }],
    [{ ...by('messages'), ...to('qt1nc@qt1bb-4'), content: message }],
    [{ ...by('mail'), ...to('office@ferry.example'), content: mail }],
    [{ ...by('mail'), addressee: { is: 'person', name: 'Ferry Office' }, content: mail }],
  ])('takes %j', (change) => expect(newItem.safeParse({ ...written, ...change }).error).toBeUndefined());
  it.each([
    ['addressee.address', to('TOO LONG A CALL')],
    // An SSID has four bits (AX.25 2.2, 3.12.2).
    ['addressee.address', to('QT4LB-99')],
    ['addressee.address', { ...by('messages'), ...to('QT1NC@'), content: message }],
    ['addressee.address', { ...by('messages'), ...to('A@B@C'), content: message }],
    ['addressee', everybody],
    ['content.body', text('a|b')],
    ['content.body', text('N'.repeat(68))],
    ['content.is', { content: message }],
    ['content.is', { ...by('mail'), ...to('office@ferry.example') }],
    ['content.is', { ...by('messages'), ...to('QT1NC@QT1BB-4'), content: mail }],
    ['content.body', { ...by('texts'), ...everybody, ...text('N'.repeat(232)) }],
    ['addressee.address', { ...by('texts'), ...to('QT4LB-8') }],
    ['addressee.address', { ...by('mail'), ...to('QT4LB-8'), content: mail }],
    ['addressee.address', { ...by('messages'), ...to('a b'), content: message }],
    ['way.path.0', { way: { ...written.way, path: ['wide1-1'] } }],
    ['way.path', { way: { ...written.way, path: Array(9).fill('WIDE1-1') } }],
    ['way.by', { way: { ...written.way, by: 'pigeon' } }],
    ['id', { id: 'x' }],
  ])('names %s as what does not fit in %j', (at, change) => {
    const result = newItem.safeParse({ ...written, ...change });
    expect(result.error?.issues[0]?.path.join('.')).toBe(at);
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

describe('the kinds of bearers', () => {
  it('are known to whoever reads one, whatever was loaded first', () => {
    jest.isolateModules(() => {
      // eslint-disable-next-line @typescript-eslint/no-require-imports -- loaded anew, alone
      const { newBearer: alone } = require('./bearers/views') as typeof import('./bearers/views');
      const config = { kind: 'kiss-serial', device: '/dev/ttyUSB0' };
      expect(alone.safeParse({ name: 'Modem', config }).success).toBe(true);
      expect(alone.safeParse({ name: 'Modem', config: { ...config, kind: 'smoke' } }).success).toBe(false);
    });
  });
});

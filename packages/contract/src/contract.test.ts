import { defaultSettings, newText, ownStation, settings, transmitLocks, bearerConfig, heardQuery } from './index';

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

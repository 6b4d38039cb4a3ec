import { decodeInformation, fillCommand, octetsOfText, readServiceWord, type Packet } from '@tombolo/core';
import { services } from '@tombolo/scenario';
import { createWorld, type World } from './sim/world';
import { createDistrictDesk } from './stations/district-desk';
import { createGroupServer } from './stations/group-server';
import { createPhone, createPost } from './stations/phone-and-post';

const START = Date.UTC(2026, 10, 25, 8);
const HOUR_MS = 3_600_000;
let world: World;
let said: { to: string; text: string }[];
let servers: Record<string, (from: string, text: string) => void>;
let desk: ReturnType<typeof createDistrictDesk>;
beforeEach(() => {
  world = createWorld(START, 'services');
  said = [];
  const write = (to: string, text: string) => void said.push({ to, text });
  desk = createDistrictDesk(world, 'QT1GW-10', write);
  servers = {
    TELTXT: createPhone(world, write),
    POSTBX: createPost(write),
    ROLLCL: createGroupServer(world, write),
    ASKDSK: desk.serve,
  };
});

const service = (address: string) => services.find((one) => one.address === address)!;
/** Gives a command to its stand-in as it would go out; what the answer proves by the shipped patterns. */
function ask(address: string, id: string, values: Record<string, string>, from = 'QT2AR-7') {
  const filled = fillCommand(
    service(address).commands.find((command) => command.id === id)!,
    values,
  );
  if (!filled.ok) throw new Error(JSON.stringify(filled.faults));
  said = [];
  servers[address]!(from, filled.text);
  expect(said.every(({ text }) => octetsOfText(text).length <= 67)).toBe(true);
  return readServiceWord(service(address), said[0]?.text ?? '');
}
const hears = (source: string, info: string, path: Packet['path'] = []) => {
  const packet: Packet = { source, destination: 'APRS', path, info: octetsOfText(info) };
  expect(decodeInformation(packet.info, packet.destination).ok).toBe(true);
  desk.hear(packet);
};

describe('the services that ship', () => {
  it('take texts for phones and mails, and what the phone answers is told from there', () => {
    expect(ask('TELTXT', 'text', { to: '+00 555 0142', text: 'When?' })).toMatchObject({
      proves: 'taken',
      groups: { to: '005550142' },
    });
    world.runUntil(world.now() + HOUR_MS);
    expect(readServiceWord(service('TELTXT'), said.at(-1)!.text)).toMatchObject({
      proves: 'answer',
      groups: { to: '005550142' },
    });
    expect(ask('TELTXT', 'text', { to: '44123', text: 'x' })).toMatchObject({ proves: 'refused' });
    expect(ask('POSTBX', 'mail', { to: 'office@ferry.example', text: 'x' })).toMatchObject({ proves: 'taken' });
    expect(ask('POSTBX', 'mail', { to: 'office@ferry.com', text: 'x' })).toMatchObject({ proves: 'refused' });
  });

  it('keep groups: what one says all hear who joined, until they leave', () => {
    const group = 'SOUNDNET';
    expect(ask('ROLLCL', 'say', { group, text: 'x' })).toMatchObject({ proves: 'refused', groups: { group } });
    expect(ask('ROLLCL', 'in', { group })).toMatchObject({ proves: 'taken', groups: { group } });
    expect(ask('ROLLCL', 'in', { group, text: 'Good morning' }, 'QT3TK-14')).toMatchObject({ proves: 'taken' });
    const heard = said.find(({ to }) => to === 'QT2AR-7')!.text;
    expect(heard).toBe('SOUNDNET QT3TK-14: Good morning');
    // What somebody says in a group is no answer to anything.
    expect(readServiceWord(service('ROLLCL'), heard)).toMatchObject({ proves: 'nothing' });
    expect(ask('ROLLCL', 'say', { group, text: 'Noted' })).toMatchObject({ proves: 'taken', of: ['say'] });
    expect(ask('ROLLCL', 'who', { group })).toMatchObject({ proves: 'told' });
    expect(said[0]!.text).toContain('QT2AR-7');
    world.runUntil(world.now() + HOUR_MS);
    expect(
      said
        .filter(({ text }) => text.includes('Roll call'))
        .map(({ to }) => to)
        .sort(),
    ).toEqual(['QT2AR-7', 'QT3TK-14']);
    expect(ask('ROLLCL', 'out', { group })).toMatchObject({ proves: 'taken', of: ['out'] });
    expect(ask('ROLLCL', 'out', { group })).toMatchObject({ proves: 'refused' });
  });

  it('spot what is wholly told, and say what is missing', () => {
    const spot = { place: 'HS-014', mhz: '7.185', mode: 'SSB' };
    expect(ask('ASKDSK', 'spot', spot)).toMatchObject({ proves: 'taken', groups: spot });
    expect(ask('ASKDSK', 'spot', { ...spot, text: 'until noon' })).toMatchObject({ proves: 'taken', groups: spot });
    for (const [text, reason] of [
      ['SPOT AT HS-014 BY SSB', 'ON'],
      ['SPOT AT HS-014 ON 7.185', 'BY'],
      ['SPOT ON 7.185 BY SSB', 'AT'],
    ] as const) {
      said = [];
      desk.serve('QT2AR-7', text);
      expect(readServiceWord(service('ASKDSK'), said[0]!.text)).toMatchObject({
        proves: 'refused',
        groups: { reason: expect.stringMatching(`^${reason} `) },
      });
    }
  });

  it('tell what they heard, from their own place', () => {
    expect(ask('ASKDSK', 'where', { call: 'QT4LB-8' })).toMatchObject({ proves: 'refused' });
    hears('QT4LB-8', '!4110.00N/04320.00WYLifeboat', [{ call: 'QT0TH-3', used: true }]);
    hears('QT5WX-13', '_11250800c040s032g048t045r000p000P000h90b09900');
    world.runUntil(world.now() + 3 * 60_000);
    const where = ask('ASKDSK', 'where', { call: 'qt4lb-8' });
    expect(where).toMatchObject({
      proves: 'told',
      groups: { call: 'QT4LB-8', text: '41 10.00N 043 20.00W, 3 min ago' },
    });
    expect(ask('ASKDSK', 'heard', { call: 'QT4LB-8' })).toMatchObject({ proves: 'told' });
    expect(said[0]!.text).toBe('QT4LB-8 was heard by QT0TH-3, 3 min ago');
    // 32 mph are 51 km/h, 48 are 77 (1 mile = 1.609344 km).
    expect(ask('ASKDSK', 'sky', { place: 'Veil' })).toMatchObject({
      proves: 'told',
      groups: { place: 'Veil', text: 'wind 40 at 51, gusts 77 km/h, 3 min ago' },
    });
    said = [];
    desk.serve('QT2AR-7', 'SKY');
    expect(readServiceWord(service('ASKDSK'), said[0]!.text)).toMatchObject({ proves: 'refused' });
  });
});

import { ourEndOf } from './our-end';
import { faultOfPointer, ownersFor, type Antenna, type KeptPiece, type Radio } from './piece';
import { setUpSheet, sheetDifferences } from './sheet';
import { SHEET_SUBJECTS, type SheetLine, type SheetPlan } from './sheet-line';

const HAND_HELD: Radio & { id: string } = {
  id: 'hand',
  kind: 'radio',
  name: 'Hand-held',
  bandsMHz: [
    { fromMHz: 144, toMHz: 148 },
    { fromMHz: 430, toMHz: 450 },
  ],
  powerW: 5,
  receivers: 2,
  modem: { receiver: 1, onAirBd: 1200, txDelayMs: 600, stopsWithWireless: true },
  positionFrom: 'own',
  scans: true,
};
const WHIP: Antenna & { id: string } = {
  id: 'whip',
  kind: 'antenna',
  name: 'Whip',
  onId: 'hand',
  bandsMHz: [{ fromMHz: 144, toMHz: 146 }],
  gainDbi: 0,
  heightM: 1.5,
};
const RECEIVER: KeptPiece = { id: 'gps', kind: 'receiver', name: 'Puck', speedBd: 9600, feedsId: 'hand' };
const PLAN: SheetPlan = {
  call: 'QT2AR-7',
  symbol: '/[',
  packetMHz: 144.8,
  path: ['WIDE1-1', 'WIDE2-1'],
  reportEveryS: 120,
  comment: 'Skerra school',
  place: null,
  mesh: null,
};
const valueOf = (lines: readonly SheetLine[], id: string) => lines.find((line) => line.id === id)?.value;
const sheet = (radio: Partial<Radio> = {}, plan: Partial<SheetPlan> = {}, others: KeptPiece[] = [WHIP]) => {
  const piece = { ...HAND_HELD, ...radio };
  return setUpSheet(piece, [piece, ...others], { ...PLAN, ...plan });
};

describe('the sheet of a radio with a modem inside', () => {
  it('walks through the subjects in order, with each line once and nothing empty', () => {
    const lines = sheet();
    const order = lines.map(({ subject }) => SHEET_SUBJECTS.indexOf(subject));
    expect(order).toEqual([...order].sort((a, b) => a - b));
    expect(lines[0]).toMatchObject({ id: 'antenna', value: 'Whip' });
    expect(new Set(lines.map(({ id }) => id)).size).toBe(lines.length);
    for (const { what, value, why, right } of lines)
      for (const words of [what, value, why, right]) expect(words).not.toBe('');
    expect(new Set(lines.map(({ subject }) => subject))).toEqual(new Set(SHEET_SUBJECTS.slice(0, -1)));
  });

  it('says every value as it is to be keyed in', () =>
    expect(Object.fromEntries(sheet().map(({ id, value }) => [id, value]))).toMatchObject({
      position: 'own receiver, on',
      'modem-receiver': 'first',
      'on-air-speed': '1200 Bd',
      'tx-delay': '600 ms',
      wireless: 'off, or the modem switched on again after it came up',
      call: 'QT2AR-7',
      symbol: 'person',
      path: 'WIDE1-1,WIDE2-1',
      interval: 'by themselves, every 2 min',
      comment: 'Skerra school',
      channel: '144.800 MHz',
      tone: 'off',
      scan: 'with 144.800 MHz in it, or scanning off',
    }));

  it('asks for no setting that the set does not have', () => {
    const ids = sheet({
      receivers: 1,
      scans: false,
      modem: { receiver: 1, onAirBd: 1200, txDelayMs: 200, stopsWithWireless: false },
    }).map(({ id }) => id);
    for (const id of ['modem-receiver', 'wireless', 'scan', 'position-speed']) expect(ids).not.toContain(id);
  });

  it('gives the port the speed of the receiver on it, the classic fault', () => {
    expect(valueOf(sheet({ positionFrom: 'port' }, {}, [WHIP, RECEIVER]), 'position-speed')).toBe('9600 Bd');
    expect(valueOf(sheet({ positionFrom: 'port' }), 'position-speed')).toMatch(/^4800 Bd/);
  });

  it('has the position typed where it stays, whatever receiver there is inside', () =>
    expect(valueOf(sheet({}, { place: { latitude: 41.269, longitude: -43.285 } }), 'position')).toBe(
      'typed in: 41° 16.140′ N, 43° 17.100′ W',
    ));

  it('warns of an antenna for another band, and of a channel that the set does not reach', () => {
    const lines = sheet({}, { packetMHz: 433.8 });
    expect(lines.find(({ id }) => id === 'antenna')!.why).toMatch(/^None that is entered here is for this band/);
    expect(sheet({}, { packetMHz: 29.5 }).find(({ id }) => id === 'channel')!.why).toMatch(/does not reach/);
    expect(sheet().find(({ id }) => id === 'channel')!.why).not.toMatch(/does not reach/);
  });
});

describe('the sheets of other pieces', () => {
  it('for a radio with a modem of its own leave to the computer what the computer does', () => {
    const modem: KeptPiece = {
      id: 'box',
      kind: 'modem',
      name: 'Box',
      radioId: 'hand',
      onAirBd: 1200,
      txDelayMs: 300,
      connection: { by: 'serial', device: '/dev/ttyUSB0', speedBd: 9600 },
    };
    const radio = sheet({ modem: null }, {}, [WHIP, modem]).map(({ id }) => id);
    expect(radio).toEqual(['antenna', 'power', 'channel', 'tone', 'scan']);
    const lines = setUpSheet(modem, [HAND_HELD, modem], PLAN);
    expect(valueOf(lines, 'link')).toBe('9600 Bd');
    expect(valueOf(lines, 'cable')).toBe('into the data socket of Hand-held');
  });

  it('for a node put the antenna before everything, and leave amateur addresses out', () => {
    const node: KeptPiece = {
      id: 'n',
      kind: 'node',
      name: 'Skerra school',
      tag: 'SKSCHL',
      powerW: 0.1,
      role: 'terminal',
      positionFrom: 'own',
      chargeSwitch: true,
    };
    const radio = { frequencyHz: 868_300_000, spreadingFactor: 9, bandwidthHz: 125_000, codingRate: 1 };
    const lines = setUpSheet(node, [node], { ...PLAN, mesh: { radio, channels: ['open', 'Sound Relief'] } });
    expect(lines[0]!.id).toBe('antenna');
    expect(valueOf(lines, 'mesh-radio')).toBe('868.3 MHz, SF9, 125 kHz, 4/5');
    expect(valueOf(lines, 'mesh-channels')).toBe('open, Sound Relief');
    expect(lines.some(({ value }) => value.includes('QT2AR'))).toBe(false);
  });

  it('are empty for what has nothing to be set', () => expect(setUpSheet(WHIP, [WHIP], PLAN)).toEqual([]));
});

describe('two people with the same set', () => {
  it('see what is not the same, and nothing else', () => {
    const theirs = sheet({}, { call: 'QT7SH-5', symbol: '/-', place: { latitude: 41.269, longitude: -43.285 } });
    expect(sheetDifferences(sheet(), theirs).map(({ id, ours, theirs: their }) => [id, ours, their])).toEqual([
      ['position', 'own receiver, on', 'typed in: 41° 16.140′ N, 43° 17.100′ W'],
      ['call', 'QT2AR-7', 'QT7SH-5'],
      ['symbol', 'person', 'house'],
    ]);
    expect(sheetDifferences(theirs, theirs)).toEqual([]);
  });

  it('see lines that only one of them has', () => {
    const one = sheet({ scans: false });
    expect(sheetDifferences(one, sheet())).toMatchObject([{ id: 'scan', ours: null }]);
    expect(sheetDifferences(sheet(), one)).toMatchObject([{ id: 'scan', theirs: null }]);
  });
});

describe('what belongs to what', () => {
  it('is another piece of a fitting kind that is there', () => {
    expect(faultOfPointer(WHIP, [HAND_HELD, WHIP])).toBeNull();
    expect(faultOfPointer(WHIP, [WHIP])).toMatch(/not on the list/);
    expect(faultOfPointer({ ...WHIP, onId: 'gps' }, [WHIP, RECEIVER])).toMatch(/cannot belong to/);
    expect(ownersFor('antenna', [HAND_HELD, WHIP, RECEIVER])).toEqual([HAND_HELD]);
    expect(ownersFor('radio', [HAND_HELD])).toEqual([]);
  });
});

describe('how we stand on the air', () => {
  const BASE: Radio & { id: string } = { ...HAND_HELD, id: 'base', name: 'Base', powerW: 25, modem: null };
  const MAST: Antenna & { id: string } = { ...WHIP, id: 'mast', onId: 'base', gainDbi: 5, heightM: 12 };
  it('is by the set and the antenna that are listed for the band', () => {
    expect(ourEndOf([HAND_HELD, WHIP], 145)).toEqual({ antennaM: 1.5, powerW: 5, gainDbi: 0, clutterDb: 6 });
    // The set with a modem, or that a modem keys, before another one.
    expect(ourEndOf([BASE, MAST, HAND_HELD, WHIP], 145)?.powerW).toBe(5);
    const box: KeptPiece = {
      id: 'box',
      kind: 'modem',
      name: 'Box',
      radioId: 'base',
      onAirBd: 1200,
      txDelayMs: 300,
      connection: { by: 'tcp', host: '127.0.0.1', port: 8001 },
    };
    expect(ourEndOf([{ ...HAND_HELD, modem: null }, WHIP, BASE, MAST, box], 145)).toMatchObject({
      powerW: 25,
      antennaM: 12,
      gainDbi: 5,
    });
  });
  it('is not said where no set of the band has an antenna for it', () => {
    expect(ourEndOf([], 145)).toBeNull();
    expect(ourEndOf([HAND_HELD], 145)).toBeNull();
    expect(ourEndOf([HAND_HELD, WHIP], 147)).toBeNull();
    expect(ourEndOf([HAND_HELD, { ...WHIP, onId: null }], 145)).toBeNull();
    expect(ourEndOf([{ ...HAND_HELD, bandsMHz: [] }, WHIP], 145)).toBeNull();
  });
});

import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { EQUIPMENT_FORMAT, equipmentFile, type KeptPieceView } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { readFileText } from '../file-box';
import { EquipmentPlace } from './equipment-place';
import { pieceForm, writtenOf } from './piece-written';
import { HAND_HELD, WHIP } from '../../../testing/equipment';
import { modemLink, openSettings } from '../../../testing/samples';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));
afterEach(() => jest.restoreAllMocks());

const read = (kind: KeptPieceView['kind'], kept: KeptPieceView | null, more: Record<string, string | boolean> = {}) =>
  pieceForm(kind).safeParse({ ...writtenOf(kind, kept), ...more });

describe('a piece in its form', () => {
  it('comes out as it went in', () => {
    for (const piece of [HAND_HELD, { ...HAND_HELD, modem: null, positionFrom: 'none' as const }, WHIP]) {
      const { id: _, ...bare } = piece;
      expect(read(piece.kind, piece).data).toEqual(bare);
    }
  });

  it('takes numbers and bands as people type them', () => {
    expect(read('antenna', WHIP, { bandsMHz: '144,0–146,0; 430 - 440,430.5-440', gainDbi: '−2,5' }).data).toMatchObject(
      {
        gainDbi: -2.5,
        bandsMHz: [
          { fromMHz: 144, toMHz: 146 },
          { fromMHz: 430, toMHz: 440 },
          { fromMHz: 430.5, toMHz: 440 },
        ],
      },
    );
  });

  it('has each complaint at its field', () => {
    const faults = (kind: KeptPieceView['kind'], more: Record<string, string>) =>
      read(kind, null, more).error?.issues.map(({ path }) => path[0]);
    expect(faults('antenna', { name: 'Whip', gainDbi: 'much', bandsMHz: '146-144' })).toEqual(['bandsMHz', 'gainDbi']);
    expect(faults('modem', { name: 'Box', connection_device: 'usb', txDelayMs: '9999' })).toEqual([
      'txDelayMs',
      'connection_device',
    ]);
    expect(faults('cell', { name: 'Pack' })).toEqual(['capacityAh', 'voltageV']);
  });
});

describe('the list of equipment', () => {
  it('takes a radio, asks for its modem only where there is one, and sends what was meant', async () => {
    const id = crypto.randomUUID();
    jest.spyOn(crypto, 'randomUUID').mockReturnValue(id);
    const asked = stationAnswers({
      'GET /api/v1/equipment': { body: [] },
      [`PUT /api/v1/equipment/${id}`]: { body: HAND_HELD },
    });
    renderPiece(<EquipmentPlace />);
    await userEvent.click(await screen.findByRole('button', { name: 'Add a piece' }));
    await userEvent.click(screen.getByRole('radio', { name: 'Radio' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Name' }), 'Hand-held');
    await userEvent.type(screen.getByRole('textbox', { name: 'Bands, MHz' }), '144-148');
    expect(screen.queryByRole('textbox', { name: 'Transmit delay, ms' })).toBeNull();
    await userEvent.click(screen.getByRole('checkbox', { name: 'A packet modem is inside' }));
    expect(screen.getByRole('textbox', { name: 'Transmit delay, ms' })).toHaveValue('600');
    await userEvent.click(screen.getByRole('button', { name: 'Add it' }));
    await waitFor(() => expect(asked.some(({ method }) => method === 'PUT')).toBe(true));
    expect(asked.find(({ method }) => method === 'PUT')!.body).toMatchObject({
      kind: 'radio',
      name: 'Hand-held',
      bandsMHz: [{ fromMHz: 144, toMHz: 148 }],
      modem: { receiver: 1, onAirBd: 1200, txDelayMs: 600, stopsWithWireless: false },
    });
  });

  it('says of each piece what it is, leads to the sheet of what has one, and asks twice before one goes', async () => {
    const asked = stationAnswers({
      'GET /api/v1/equipment': { body: [HAND_HELD, WHIP] },
      [`DELETE /api/v1/equipment/${WHIP.id}`]: { status: 204, body: null },
    });
    renderPiece(<EquipmentPlace />);
    expect(await screen.findByText(/^Radio · 144–148 MHz · 5 W · modem inside, 1200 Bd/)).toBeInTheDocument();
    expect(screen.getByText(/^Antenna · 0 dBi · 1.5 m high · on Hand-held$/)).toBeInTheDocument();
    expect(screen.getByRole('link', { name: 'Set-up sheet: Hand-held' })).toHaveAttribute(
      'href',
      `/tools/equipment/${HAND_HELD.id}`,
    );
    expect(screen.queryByRole('link', { name: 'Set-up sheet: Whip' })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Remove: Whip' }));
    expect(asked.some(({ method }) => method === 'DELETE')).toBe(false);
    await userEvent.click(screen.getByRole('button', { name: 'Remove for good: Whip' }));
    await waitFor(() => expect(asked.some(({ method }) => method === 'DELETE')).toBe(true));
  });

  it('makes a bearer of a modem at one press, and leads to the one that there is', async () => {
    const modem = {
      ...WHIP,
      id: crypto.randomUUID(),
      kind: 'modem' as const,
      name: 'Modem on the shelf',
      radioId: null,
      onAirBd: 1200 as const,
      txDelayMs: 450,
      connection: { by: 'serial' as const, device: '/dev/ttyUSB0', speedBd: 9600 as const },
    };
    const answers = {
      'GET /api/v1/equipment': { body: [modem] },
      'GET /api/v1/settings': { body: { ...openSettings, region: 'europe' } },
      'POST /api/v1/bearers': { body: modemLink() },
    };
    const asked = stationAnswers({ ...answers, 'GET /api/v1/bearers': { body: [modemLink()] } });
    const { unmount } = renderPiece(<EquipmentPlace />);
    await userEvent.click(await screen.findByRole('button', { name: 'Make it a bearer: Modem on the shelf' }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'POST')?.body).toEqual({
        name: 'Modem on the shelf',
        config: { kind: 'kiss-serial', device: '/dev/ttyUSB0', speedBd: 9600, txDelayMs: 450, frequencyMHz: 144.8 },
      }),
    );
    unmount();
    const there = modemLink({
      config: { ...modemLink().config, kind: 'kiss-serial', device: '/dev/ttyUSB0' } as never,
    });
    stationAnswers({ ...answers, 'GET /api/v1/bearers': { body: [there] } });
    renderPiece(<EquipmentPlace />);
    expect(await screen.findByRole('link', { name: 'Its bearer: Modem' })).toHaveAttribute('href', '/bearers/radio');
  });

  it('reads a file that fits, and says what is wrong with another', () => {
    const file = { format: EQUIPMENT_FORMAT, version: 1, pieces: [HAND_HELD, WHIP] };
    expect(readFileText(JSON.stringify(file), equipmentFile)).toEqual({ file });
    expect(readFileText('<html>', equipmentFile)).toEqual({ fault: 'It is no JSON.' });
    expect(readFileText(JSON.stringify({ ...file, format: 'other' }), equipmentFile)).toEqual({
      fault: 'format: a file of the format “tombolo-equipment”',
    });
    expect(readFileText(JSON.stringify({ ...file, pieces: [WHIP] }), equipmentFile)).toEqual({
      fault: 'pieces.0: what “Whip” belongs to is not on the list',
    });
  });
});

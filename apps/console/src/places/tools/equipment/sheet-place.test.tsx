import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Tick } from '@tombolo/contract';
import { usePreferences } from '../../../live/preferences';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { AT, modemLink, openSettings } from '../../../testing/samples';
import { HAND_HELD, WHIP } from '../../../testing/equipment';
import { SheetPlace } from './sheet-place';

const mockId = '7d4c1a52-2f9a-4a53-9a51-0d6a7a1b2c01';
jest.mock('expo-router', () => ({ useLocalSearchParams: () => ({ id: mockId }), router: { navigate: jest.fn() } }));

const mockSave = jest.fn();
jest.mock('../../log/save', () => ({ saveFile: (url: string) => mockSave(url) }));

const TICK: Tick = {
  id: '7d4c1a52-2f9a-4a53-9a51-0d6a7a1b2cff',
  holder: 'QT2AR-7',
  line: 'tx-delay',
  value: '600 ms',
  done: true,
  by: 'XY',
  at: AT,
};
const answers = (ticks: Tick[] = []) =>
  stationAnswers({
    'GET /api/v1/equipment': { body: [HAND_HELD, WHIP] },
    'GET /api/v1/settings': { body: { ...openSettings, region: 'americas' } },
    'GET /api/v1/bearers': { body: [modemLink()] },
    [`GET /api/v1/equipment/${HAND_HELD.id}/ticks`]: { body: ticks },
    [`POST /api/v1/equipment/${HAND_HELD.id}/ticks`]: { status: 201, body: TICK },
  });
beforeEach(() => usePreferences.getState().prefer({ initials: '' }));

describe('a set-up sheet', () => {
  it('says everything in order, with the channel of the region and the path of the modem', async () => {
    answers();
    renderPiece(<SheetPlace />);
    expect(await screen.findByText('144.390 MHz')).toBeInTheDocument();
    expect(screen.getByText('WIDE1-1,WIDE2-1')).toBeInTheDocument();
    expect(screen.getByText('QT2AR-7')).toBeInTheDocument();
    const boxes = screen.getAllByRole('checkbox').map((box) => box.getAttribute('aria-label'));
    expect(boxes.slice(0, 4)).toEqual(['Antenna', 'Power', 'Position', 'Packet modem']);
    expect(screen.getByText(`0 of ${boxes.length} done for QT2AR-7`)).toBeInTheDocument();
  });

  it('is ticked by somebody with initials, and by nobody else', async () => {
    const asked = answers();
    renderPiece(<SheetPlace />);
    await userEvent.click(await screen.findByRole('checkbox', { name: 'Transmit delay' }));
    expect(screen.getByText(/^Enter your initials above/)).toBeInTheDocument();
    const posts = () => asked.filter(({ method }) => method === 'POST');
    expect(posts()).toEqual([]);
    await userEvent.type(screen.getByRole('textbox', { name: 'Your initials' }), 'AR');
    await userEvent.click(screen.getByRole('checkbox', { name: 'Transmit delay' }));
    await waitFor(() => expect(posts()).toHaveLength(1));
    expect(posts()[0]!.body).toMatchObject({
      holder: 'QT2AR-7',
      line: 'tx-delay',
      value: '600 ms',
      done: true,
      by: 'AR',
    });
  });

  it('shows who ticked what; a tick for another value does not hold', async () => {
    answers([
      TICK,
      { ...TICK, line: 'path', value: 'WIDE2-2' },
      { ...TICK, line: 'call', value: 'QT2AR-7', done: false },
    ]);
    renderPiece(<SheetPlace />);
    expect(await screen.findByText(/^Ticked by XY/)).toBeInTheDocument();
    const checked = (name: string) => screen.getByRole('checkbox', { name }).getAttribute('aria-checked');
    expect([checked('Transmit delay'), checked('Path'), checked('Own call sign')]).toEqual(['true', 'false', 'false']);
    expect(screen.getByText(/^XY ticked it for another value: WIDE2-2/)).toBeInTheDocument();
    expect(screen.getByText(/^Tick taken back by XY/)).toBeInTheDocument();
  });

  it('is made for somebody with the same set, and shows what differs; a call that is none changes nothing', async () => {
    answers([TICK]);
    renderPiece(<SheetPlace />);
    await userEvent.click(await screen.findByRole('button', { name: 'For somebody with the same set' }));
    const who = await screen.findByRole('textbox', { name: 'For whom' });
    await userEvent.type(who, 'qt7sh-99');
    expect(screen.queryByRole('list', { name: 'Differences' })).toBeNull();
    await userEvent.clear(who);
    await userEvent.type(who, 'qt7sh-5');
    const differences = within(screen.getByRole('list', { name: 'Differences' }));
    expect(differences.getAllByRole('listitem').map((row) => row.textContent)).toEqual([
      'Own call sign: QT7SH-5; ours: QT2AR-7',
    ]);
    await userEvent.click(screen.getByRole('button', { name: 'Save as PDF: Hand-held, for QT7SH-5' }));
    expect(mockSave).toHaveBeenCalledWith(
      `/api/v1/equipment/${HAND_HELD.id}/sheet.pdf?who=qt7sh-5&symbol=%2F%5B&reports=hand`,
    );
    // Their boxes are their own.
    expect(screen.getByRole('checkbox', { name: 'Transmit delay' })).toHaveAttribute('aria-checked', 'false');
  });
});

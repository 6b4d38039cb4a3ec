import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { defaultSettings, type KeptView } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../testing/render';
import { AT } from '../../testing/samples';
import { goingMonths, KeptPanel } from './kept-panel';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

/** The present month and three before it. */
const monthsBack = (by: number): string => {
  const now = new Date();
  return new Date(Date.UTC(now.getUTCFullYear(), now.getUTCMonth() - by, 1)).toISOString().slice(0, 7);
};
const kept = (more: Partial<KeptView> = {}): KeptView => ({
  keepHeardMonths: null,
  months: [0, 1, 2, 3].map((by) => ({ month: monthsBack(by), octets: 1_200_000_000, packets: 1_000_000, goes: false })),
  restOctets: 40_960,
  archive: [],
  remaking: null,
  lastTurn: null,
  ...more,
});

describe('months that go', () => {
  it('are those before the present one and as many as are kept', () => {
    const months = ['2026-02', '2026-01', '2025-12', '2025-11'].map((month) => ({
      month,
      octets: 1,
      packets: 1,
      goes: false,
    }));
    const going = (keep: number | null) =>
      goingMonths(months, keep, new Date('2026-02-28T23:59:59Z')).map(({ month }) => month);
    expect(going(null)).toEqual([]);
    expect(going(1)).toEqual(['2025-12', '2025-11']);
    expect(going(2)).toEqual(['2025-11']);
    expect(going(3)).toEqual([]);
  });
});

describe('what is kept', () => {
  it('tells what would go and what that frees before it is chosen', async () => {
    const asked = stationAnswers({
      'GET /api/v1/kept': { body: kept() },
      'PATCH /api/v1/settings': { body: { ...defaultSettings, keepHeardMonths: 1 } },
    });
    renderPiece(<KeptPanel />);
    expect(await screen.findAllByText(/about 1000000 packets, 1.2 GB/)).toHaveLength(4);
    expect(screen.queryByRole('button', { name: 'Keep so much' })).toBeNull();
    await userEvent.click(screen.getByRole('radio', { name: 'This month and the one before' }));
    expect(screen.getByRole('status')).toHaveTextContent(/Would go within the hour.*about 2.4 GB of the disk/);
    await userEvent.click(screen.getByRole('button', { name: 'Cancel' }));
    expect(screen.queryByText(/Would go/)).toBeNull();
    await userEvent.click(screen.getByRole('radio', { name: 'This month and the one before' }));
    await userEvent.click(screen.getByRole('button', { name: 'Keep so much' }));
    await waitFor(() => expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({ keepHeardMonths: 1 }));
  });

  it('says that nothing goes without an archive', async () => {
    stationAnswers({ 'GET /api/v1/kept': { body: kept({ archive: null, keepHeardMonths: 2 }) } });
    renderPiece(<KeptPanel />);
    expect(await screen.findByRole('alert')).toHaveTextContent(/Nothing goes: there is no folder/);
  });

  it('tells of what is being made anew, of the archive, and of the last turn', async () => {
    stationAnswers({
      'GET /api/v1/kept': {
        body: kept({
          remaking: { done: 42_000 },
          archive: [{ name: 'heard-2026-01.csv.gz', octets: 8_000_000 }],
          lastTurn: { at: AT, words: '2026-01 archived (7 receptions) and dropped' },
        }),
      },
      'GET /api/v1/backup-plan': {
        body: {
          everyDays: 1,
          kept: 7,
          passphraseSet: true,
          possible: true,
          files: [],
          lastGoodAt: null,
          problem: 'no room on the disk',
        },
      },
    });
    renderPiece(<KeptPanel />);
    expect(await screen.findByText(/From 42000 receptions so far/)).toBeTruthy();
    expect(screen.getByText('heard-2026-01.csv.gz, 8.0 MB')).toBeTruthy();
    expect(await screen.findByText('No verified backup yet.')).toBeTruthy();
    expect(screen.getByText('no room on the disk')).toBeTruthy();
    expect(screen.getByText('Last: 2026-01 archived (7 receptions) and dropped')).toBeTruthy();
  });
});

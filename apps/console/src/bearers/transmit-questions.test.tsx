import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { WaitingView } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../testing/render';
import { openSettings } from '../testing/samples';
import { airWords } from './before-unlocking';
import { TransmitQuestions } from './transmit-questions';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const waits = (id: string, words: string, more: Partial<WaitingView> = {}): WaitingView => ({
  id,
  itemId: null,
  bearerId: 'radio',
  bearer: 'Modem',
  kind: 'kiss-tcp',
  role: 'convey',
  to: 'QT1NC',
  words,
  queuedAt: new Date(Date.now() - 120_000).toISOString(),
  airMs: 700,
  ...more,
});
const A = '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c01';
const B = '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c02';
const locked = { ...openSettings, antennaConfirmed: false };
const antenna = () => screen.getByRole('checkbox', { name: /^An antenna/ });

describe('the last question that holds the transmitter', () => {
  it('unlocks at once where nothing waits', async () => {
    const asked = stationAnswers({
      'GET /api/v1/waiting': { body: [] },
      'PATCH /api/v1/settings': { body: openSettings },
    });
    renderPiece(<TransmitQuestions settings={locked} />);
    await userEvent.click(antenna());
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({ antennaConfirmed: true }),
    );
  });

  it('shows what would go, and takes out first what shall not', async () => {
    const asked = stationAnswers({
      'GET /api/v1/waiting': { body: [waits(A, 'Still wanted'), waits(B, 'Long settled', { airMs: null })] },
      'POST /api/v1/waiting/drop': { body: { dropped: 1 } },
      'PATCH /api/v1/settings': { body: openSettings },
    });
    renderPiece(<TransmitQuestions settings={locked} />);
    await userEvent.click(antenna());
    const list = await screen.findByRole('list', { name: 'What waits' });
    expect(asked.filter(({ method }) => method === 'PATCH')).toEqual([]);
    expect(within(list).getByText('2 min old, by Modem, 0.7 s')).toBeInTheDocument();
    expect(
      screen.getByRole('button', { name: 'Unlock and send 2 of 2, 0.7 s on the air and more' }),
    ).not.toHaveAttribute('aria-disabled', 'true');
    await userEvent.click(screen.getByRole('checkbox', { name: 'To QT1NC: Long settled' }));
    await userEvent.click(screen.getByRole('button', { name: 'Unlock and send 1 of 2, 0.7 s on the air' }));
    await waitFor(() => expect(screen.queryByRole('list', { name: 'What waits' })).toBeNull());
    const changes = asked.filter(({ method }) => method !== 'GET').map(({ path, body }) => [path, body]);
    expect(changes).toEqual([
      ['/api/v1/waiting/drop', { ids: [B] }],
      ['/api/v1/settings', { antennaConfirmed: true }],
    ]);
  });

  it('stays unanswered when somebody thinks better of it, or when the rest could not be taken out', async () => {
    const asked = stationAnswers({
      'GET /api/v1/waiting': { body: [waits(A, 'Still wanted')] },
      'POST /api/v1/waiting/drop': { status: 503, body: { title: 'Database is down' } },
      'PATCH /api/v1/settings': { body: openSettings },
    });
    renderPiece(<TransmitQuestions settings={locked} />);
    await userEvent.click(antenna());
    await userEvent.click(await screen.findByRole('checkbox', { name: 'To QT1NC: Still wanted' }));
    await userEvent.click(screen.getByRole('button', { name: 'Unlock and send nothing of it' }));
    expect(await screen.findByText('That did not work')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Close' }));
    expect(antenna()).not.toBeChecked();
    expect(asked.filter(({ method }) => method === 'PATCH')).toEqual([]);
  });

  it('promises nothing while everything is held besides', async () => {
    stationAnswers({ 'GET /api/v1/waiting': { body: [waits(A, 'Still wanted')] } });
    renderPiece(<TransmitQuestions settings={{ ...locked, heldSince: '2026-11-25T08:00:00.000Z' }} />);
    await userEvent.click(antenna());
    expect(await screen.findByText('This goes out when you let it go on')).toBeInTheDocument();
    expect(screen.getByRole('button', { name: 'Unlock and keep 1 of 1, 0.7 s on the air' })).not.toHaveAttribute(
      'aria-disabled',
      'true',
    );
  });

  it('locks without a question', async () => {
    const asked = stationAnswers({ 'PATCH /api/v1/settings': { body: locked } });
    renderPiece(<TransmitQuestions settings={openSettings} />);
    await userEvent.click(antenna());
    await waitFor(() =>
      expect(asked.map(({ method, path }) => `${method} ${path}`)).toEqual(['PATCH /api/v1/settings']),
    );
  });

  it('does not speak of what the other question still holds', async () => {
    const asked = stationAnswers({
      'GET /api/v1/waiting': { body: [waits(A, 'By radio'), waits(B, 'By mesh', { kind: 'mesh-mqtt' })] },
      'PATCH /api/v1/settings': { body: openSettings },
    });
    renderPiece(<TransmitQuestions settings={{ ...locked, licenceConfirmed: false }} />);
    await userEvent.click(antenna());
    expect(await screen.findByRole('checkbox', { name: 'To QT1NC: By mesh' })).toBeChecked();
    expect(screen.queryByRole('checkbox', { name: 'To QT1NC: By radio' })).toBeNull();
    expect(asked.filter(({ method }) => method === 'PATCH')).toEqual([]);
  });

  it('tells the air time of nothing as nothing', () => expect(airWords([waits(A, '', { airMs: null })])).toBe(''));
});

import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { TransmissionView } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { AT, modemLink, openSettings } from '../../../testing/samples';
import { PositionPlace } from './position-place';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const SENT: TransmissionView = {
  id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c99',
  role: 'convey',
  bearerId: 'radio',
  from: 'QT2AR-7',
  to: 'everybody',
  path: [],
  createdAt: AT,
  nextAt: AT,
  held: null,
  tries: 1,
  triesMade: 0,
  evidence: [],
};
const settings = { ...openSettings, position: { latitude: 41.269, longitude: -43.285 }, symbol: '/-' };
const answers = (more: Record<string, { status?: number; body: unknown }> = {}) =>
  stationAnswers({
    'GET /api/v1/settings': { body: settings },
    'GET /api/v1/bearers': { body: [modemLink()] },
    'GET /api/v1/transmissions': { body: { rows: [], next: null } },
    ...more,
  });

describe('where we are', () => {
  it('shows what would go out, as exactly as is chosen, and sends just that', async () => {
    const asked = answers({ 'POST /api/v1/position-reports': { status: 201, body: SENT } });
    renderPiece(<PositionPlace />);
    expect(await screen.findByText('=4116.14N/04317.10W-')).toBeTruthy();
    await userEvent.click(screen.getByRole('radio', { name: /1\.9 km/ }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Comment' }), 'Skerra school');
    expect(screen.getByText('=4116. N/04317. W-Skerra school')).toBeTruthy();
    await userEvent.click(screen.getByRole('radio', { name: 'No digipeater' }));
    await userEvent.click(screen.getByRole('button', { name: /^Send our position by .*, without a digipeater$/ }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'POST')?.body).toMatchObject({
        bearerId: modemLink().id,
        path: [],
        ambiguity: 2,
        comment: 'Skerra school',
      }),
    );
    expect(await screen.findByText(/^It is in the queue/)).toBeTruthy();
  });

  it('sends the same report once, however often the button is pressed while nobody answers', async () => {
    const asked = answers();
    renderPiece(<PositionPlace />);
    for (const times of [1, 2]) {
      await userEvent.click(await screen.findByRole('button', { name: /^Send our position/ }));
      await waitFor(() => expect(asked.filter(({ method }) => method === 'POST')).toHaveLength(times));
      await screen.findByText(/^Not queued/);
    }
    const [first, second] = asked
      .filter(({ method }) => method === 'POST')
      .map(({ body }) => (body as { id: string }).id);
    expect(second).toBe(first);
  });

  it('refuses a comment that cannot go out, and says so beside it', async () => {
    const asked = answers();
    renderPiece(<PositionPlace />);
    await userEvent.type(await screen.findByRole('textbox', { name: 'Comment' }), 'on|off');
    expect(screen.getByText('“|” cannot be sent')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: /^Send our position/ }));
    expect(asked.filter(({ method }) => method === 'POST')).toEqual([]);
  });

  it('asks for the position first', async () => {
    answers({ 'GET /api/v1/settings': { body: { ...settings, position: null } } });
    renderPiece(<PositionPlace />);
    expect(await screen.findByText('It is not known where this station is')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Send our position/ })).toBeNull();
  });
});

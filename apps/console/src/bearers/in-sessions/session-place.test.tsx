import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPiece, stationAnswers } from '../../testing/render';
import { boardLink, offer, openSettings, session } from '../../testing/samples';
import { BearerPlace } from '../../places/bearers/bearer-place';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const answers = (more: Record<string, { status?: number; body: unknown }> = {}) =>
  stationAnswers({
    'GET /api/v1/bearers': { body: [boardLink()] },
    'GET /api/v1/settings': { body: openSettings },
    'GET /api/v1/sessions': { body: [] },
    'GET /api/v1/offers': { body: [] },
    ...more,
  });

describe('a board from inside', () => {
  it('teaches what a first session does, and begins one', async () => {
    const asked = answers({
      'POST /api/v1/sessions': { status: 201, body: session({ endedAt: null, stage: 'connecting to QT1BB-4' }) },
    });
    renderPiece(<BearerPlace id="board" />);
    expect(await screen.findByText('Not asked yet')).toBeInTheDocument();
    expect(await screen.findByRole('checkbox', { name: 'Leave what waits (1)' })).toBeChecked();
    await userEvent.click(screen.getByRole('button', { name: 'Connect and see what is there' }));
    await waitFor(() => expect(asked.some(({ method }) => method === 'POST')).toBe(true));
    expect(asked.find(({ method }) => method === 'POST')!.body).toEqual({
      bearerId: 'board',
      kind: 'exchange',
      leave: true,
      takePrivate: true,
      take: [],
      remove: [],
    });
  });

  it('lists what lies there with size and time, takes what is chosen, opens what was taken', async () => {
    const asked = answers({
      'GET /api/v1/offers': {
        body: [
          offer(),
          offer({
            key: 'k13',
            number: '13',
            kind: 'private',
            to: 'QT2AR@QT1BB-4',
            subject: 'Shelter list',
            itemId: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c3e',
          }),
          offer({ key: 'k9', subject: 'Long gone', gone: true }),
        ],
      },
      'GET /api/v1/sessions': { body: [session()] },
      'POST /api/v1/sessions': { status: 201, body: session({ endedAt: null }) },
    });
    renderPiece(<BearerPlace id="board" />);
    expect(
      await screen.findByText(/QT1NC to NEWS@SOUND · 115 octets, about 15 s · 2026-11-25 05:57Z/),
    ).toBeInTheDocument();
    expect(screen.getByRole('link', { name: 'Taken: open “Shelter list”' })).toBeInTheDocument();
    expect(screen.queryByText('Long gone')).toBeNull();
    await userEvent.click(screen.getByRole('checkbox', { name: 'Take no. 11' }));
    await userEvent.click(screen.getByRole('button', { name: 'Connect and take 1, about 15 s' }));
    await waitFor(() => expect(asked.find(({ method }) => method === 'POST')?.body).toMatchObject({ take: ['k11'] }));
  });

  it('shows what was said, and why a session ended early', async () => {
    answers({
      'GET /api/v1/sessions': {
        body: [session({ stage: 'ended early', problem: 'QT1BB-4: no answer. What was done before is kept.' })],
      },
    });
    renderPiece(<BearerPlace id="board" />);
    expect(await screen.findByRole('alert')).toHaveTextContent('QT1BB-4: no answer. What was done before is kept.');
    await userEvent.click(screen.getByRole('button', { name: 'Show what was said' }));
    expect(screen.getByText(/> unread/)).toBeInTheDocument();
  });

  it('shows progress, and lets a terminal be typed at', async () => {
    const running = session({
      endedAt: null,
      kind: 'terminal',
      stage: 'connected to QT1BB-4',
      totalOctets: 200,
      doneOctets: 50,
    });
    const asked = answers({
      'GET /api/v1/sessions': { body: [running] },
      [`POST /api/v1/sessions/${running.id}/lines`]: { body: running },
    });
    renderPiece(<BearerPlace id="board" />);
    expect(await screen.findByText('50 of 200 octets')).toBeInTheDocument();
    await userEvent.type(screen.getByRole('textbox', { name: 'Line to send' }), 'help');
    await userEvent.click(screen.getByRole('button', { name: 'Send the line' }));
    await waitFor(() => expect(asked.find(({ path }) => path.endsWith('/lines'))?.body).toEqual({ line: 'help' }));
    expect(screen.queryByRole('button', { name: /^Connect/ })).toBeNull();
    expect(screen.getByRole('button', { name: 'Hang up' })).not.toHaveAttribute('aria-disabled', 'true');
  });

  it('that is gone says so', async () => {
    answers({ 'GET /api/v1/bearers': { body: [] } });
    renderPiece(<BearerPlace id="board" />);
    expect(await screen.findByText('That bearer is gone')).toBeInTheDocument();
  });
});

import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { RepeatingNow } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { modemLink, openSettings } from '../../../testing/samples';
import { RepeatingPlace } from './repeating-place';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const answers = (now: Partial<RepeatingNow> = {}, settings: object = openSettings) =>
  stationAnswers({
    'GET /api/v1/settings': { body: settings },
    'GET /api/v1/bearers': { body: [modemLink()] },
    'GET /api/v1/transmissions': { body: { rows: [], next: null } },
    'GET /api/v1/repeating': {
      body: {
        repeating: null,
        stopped: null,
        repeatedLastHour: 0,
        leftLastHour: 0,
        advice: { verdict: 'helps', unheard: ['QT3TK-14', 'QT7SH-5'], served: ['QT4LB-8'] },
        ...now,
      },
    },
    'PATCH /api/v1/settings': { body: settings },
  });
const changed = (asked: ReturnType<typeof answers>) => asked.find(({ method }) => method === 'PATCH')?.body;

describe('repeating for others', () => {
  it('says whom it would help before it is turned on, as it is written', async () => {
    const asked = answers();
    renderPiece(<RepeatingPlace />);
    expect(await screen.findByText(/^2 stations heard here directly, and by no digipeater/)).toBeInTheDocument();
    expect(screen.getByText('QT3TK-14, QT7SH-5')).toBeInTheDocument();
    const air = await screen.findByLabelText('Air time in ten minutes, s');
    await userEvent.clear(air);
    await userEvent.type(air, '600');
    await userEvent.click(screen.getByRole('button', { name: 'Repeat for others' }));
    expect(screen.getByText('from 5 to 120 s')).toBeInTheDocument();
    expect(changed(asked)).toBeUndefined();
    await userEvent.clear(air);
    await userEvent.type(air, '20');
    await userEvent.click(screen.getByRole('button', { name: 'Repeat for others' }));
    await waitFor(() => expect(changed(asked)).toEqual({ repeating: { bearerId: 'radio', holdBackS: 2, airS: 20 } }));
  });

  it('is held by the questions, and says that it would only load the channel', async () => {
    const asked = answers(
      { advice: { verdict: 'loads', unheard: [], served: ['QT4LB-8', 'QT3TK-14', 'QT7SH-5'] } },
      { ...openSettings, licenceConfirmed: false },
    );
    renderPiece(<RepeatingPlace />);
    expect(await screen.findByText(/would only load the channel\.$/)).toBeInTheDocument();
    await userEvent.click(await screen.findByRole('button', { name: 'Repeat all the same' }));
    expect(screen.getByText(/has to cover automatic repeating/)).toBeInTheDocument();
    expect(changed(asked)).toBeUndefined();
  });

  it('tells what it does, why not, and stops at one press', async () => {
    const asked = answers({
      repeating: { bearerId: 'radio', holdBackS: 2, airS: 30 },
      stopped: '“Modem” is switched off.',
      repeatedLastHour: 12,
      leftLastHour: 7,
    });
    renderPiece(<RepeatingPlace />);
    expect(await screen.findByText(/^In the last hour 12 repeated, 7 left to somebody else;/)).toBeInTheDocument();
    expect(screen.getByText('“Modem” is switched off.')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Stop repeating' }));
    await waitFor(() => expect(changed(asked)).toEqual({ repeating: null }));
  });
});

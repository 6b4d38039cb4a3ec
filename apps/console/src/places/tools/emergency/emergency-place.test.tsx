import { act, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { EmergencyNow } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { AT, openSettings } from '../../../testing/samples';
import { OwnEmergencyBanner } from '../../own-emergency-banner';
import { EmergencyPlace } from './emergency-place';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const QUIET: EmergencyNow = {
  own: null,
  position: { latitude: 41.269, longitude: -43.285 },
  over: [{ bearerId: 'radio', name: 'Radio', stopped: null, times: 0, lastAt: null, seenBy: [] }],
};
const CALLING: EmergencyNow = {
  ...QUIET,
  own: { since: AT, drill: false, words: 'two hurt' },
  over: [{ ...QUIET.over[0]!, times: 2, lastAt: AT, seenBy: ['QT0BR-1', 'QT0TH-3'] }],
};
const answers = (now: EmergencyNow, settings: object = openSettings) =>
  stationAnswers({
    'GET /api/v1/settings': { body: settings },
    'GET /api/v1/emergency': { body: now },
    'GET /api/v1/bearers': { body: [] },
    'GET /api/v1/transmissions': { body: { rows: [], next: null } },
    'POST /api/v1/emergency': { body: CALLING },
    'POST /api/v1/emergency/end': { body: QUIET },
  });
const posted = (asked: ReturnType<typeof answers>) => asked.filter(({ method }) => method === 'POST');

describe('our call for help', () => {
  beforeEach(() => void jest.useFakeTimers({ advanceTimers: true }));
  afterEach(() => void jest.useRealTimers());
  const user = () => userEvent.setup({ advanceTimers: jest.advanceTimersByTime });

  it('shows what goes out, is counted down, and goes out only then', async () => {
    const asked = answers(QUIET);
    renderPiece(<EmergencyPlace />);
    await user().type(await screen.findByLabelText('What happened'), 'two hurt');
    expect(screen.getByText('=4116.14N\\04317.10W!EMERGENCY two hurt')).toBeTruthy();
    await user().click(screen.getByRole('button', { name: 'Call for help …' }));
    expect(screen.getByRole('heading', { name: 'The call for help goes out in 10 s' })).toBeTruthy();
    expect(document.activeElement?.textContent).toContain('Take it back');
    act(() => void jest.advanceTimersByTime(9000));
    expect(posted(asked)).toEqual([]);
    act(() => void jest.advanceTimersByTime(1500));
    await waitFor(() => expect(posted(asked)).toMatchObject([{ body: { drill: false, words: 'two hurt' } }]));
    act(() => void jest.advanceTimersByTime(20_000));
    expect(posted(asked)).toHaveLength(1);
  });

  it('is taken back by one press, and by leaving; what was written stays', async () => {
    const asked = answers(QUIET);
    const { unmount } = renderPiece(<EmergencyPlace />);
    await user().click(await screen.findByText('A drill'));
    await user().type(screen.getByLabelText('What happened'), 'fire');
    expect(screen.getByText('=4116.14N/04317.10W[EMERGENCY DRILL fire')).toBeTruthy();
    await user().click(screen.getByRole('button', { name: 'Start the drill …' }));
    await user().click(screen.getByRole('button', { name: 'Take it back' }));
    expect(screen.getByLabelText<HTMLInputElement>('What happened').value).toBe('fire');
    await user().click(screen.getByRole('button', { name: 'Start the drill …' }));
    unmount();
    act(() => void jest.advanceTimersByTime(20_000));
    expect(posted(asked)).toEqual([]);
  });

  it('says what the licence question means when life is in danger, and holds all the same', async () => {
    const asked = answers(QUIET, { ...openSettings, licenceConfirmed: false });
    renderPiece(<EmergencyPlace />);
    expect(await screen.findByText(/97\.403 and 97\.405/)).toBeTruthy();
    await user().click(screen.getByRole('button', { name: 'Call for help …' }));
    expect(screen.queryByRole('button', { name: 'Take it back' })).toBeNull();
    await user().click(screen.getByText('A drill'));
    expect(screen.queryByText(/97\.403/)).toBeNull();
    expect(posted(asked)).toEqual([]);
  });

  it('tells who has it while it goes on, and is ended by one press', async () => {
    const asked = answers(CALLING, { ...openSettings, emergency: CALLING.own });
    renderPiece(
      <>
        <OwnEmergencyBanner />
        <EmergencyPlace />
      </>,
    );
    expect(await screen.findByText('QT0BR-1, QT0TH-3')).toBeTruthy();
    expect(screen.getByText(/^Our call for help goes out since/)).toBeTruthy();
    expect(screen.getByText(/not that somebody read it/)).toBeTruthy();
    await user().click(screen.getByRole('button', { name: 'End the call for help, and say so by radio' }));
    await waitFor(() => expect(posted(asked)).toMatchObject([{ path: '/api/v1/emergency/end' }]));
  });
});

import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { router } from 'expo-router';
import { defaultSettings, type BearerView, type Settings } from '@tombolo/contract';
import { usePreferences } from '../../live/preferences';
import { renderPiece, stationAnswers } from '../../testing/render';
import { AT, heardStation, modemLink } from '../../testing/samples';
import { StartPlace } from './start-place';
import { initialsOf, isAnswered, isNew, STEPS, stepAfter, stepOf } from './steps';

let mockStep = 'who';
jest.mock('expo-router', () => ({
  router: { navigate: jest.fn(), setParams: jest.fn() },
  useLocalSearchParams: () => ({ step: mockStep }),
}));

const answers = (settings: Partial<Settings> = {}, bearers: BearerView[] = [], more = {}) =>
  stationAnswers({
    'GET /api/v1/settings': { body: { ...defaultSettings, ...settings } },
    'GET /api/v1/bearers': { body: bearers },
    'GET /api/v1/stations': { body: [] },
    'GET /api/v1/serial-ports': { body: [{ device: '/dev/ttyUSB0', builtIn: false }] },
    'PATCH /api/v1/settings': { body: { ...defaultSettings, ...settings } },
    'POST /api/v1/bearers': { body: modemLink() },
    ...more,
  });
const at = (step: string) => {
  mockStep = step;
  renderPiece(<StartPlace />);
};
const changes = (asked: ReturnType<typeof answers>) => asked.filter(({ method }) => method !== 'GET');

describe('the steps', () => {
  it('are in order, and an unknown one is the first', () => {
    expect(STEPS.map(stepAfter)).toEqual(['licence', 'where', 'have', 'listen', 'listen']);
    expect(stepOf('nonsense')).toBe('who');
  });
  it('know what is answered, and a station of which nothing is known', () => {
    expect(isNew(defaultSettings, [])).toBe(true);
    for (const known of [{ call: 'QT2AR' }, { name: 'R' }, { licenceConfirmed: true }, { region: 'europe' } as const])
      expect(isNew({ ...defaultSettings, ...known }, [])).toBe(false);
    expect(isNew(defaultSettings, [modemLink()])).toBe(false);
    expect(isAnswered('listen', defaultSettings, [modemLink({ lastHeardAt: AT })])).toBe(true);
  });
  it('sign by initials', () =>
    expect(['Renske Hallow', 'runa m. arkwell', '', 'Åsa', 'A B C D E F G'].map(initialsOf)).toEqual([
      'RH',
      'RMA',
      '',
      'Å',
      'ABCDE',
    ]));
});

describe('first steps', () => {
  it('take a call with its complaint at the field, or none at all', async () => {
    const asked = answers();
    at('who');
    await userEvent.type(await screen.findByLabelText('Call sign'), 'QT2AR-7');
    await userEvent.type(screen.getByLabelText('Name'), 'Runa Arkwell');
    await userEvent.click(screen.getByRole('button', { name: 'Keep it and go on' }));
    expect(await screen.findByText('give the SSID in its own field')).toBeInTheDocument();
    expect(changes(asked)).toEqual([]);
    await userEvent.clear(screen.getByLabelText('Call sign'));
    expect(screen.getByText(/^Without a call sign nothing goes out/)).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Keep it and go on' }));
    await waitFor(() => expect(changes(asked)).toMatchObject([{ body: { call: '', ssid: 7, name: 'Runa Arkwell' } }]));
    await waitFor(() => expect(router.navigate).toHaveBeenCalledWith('/start?step=licence'));
    expect(usePreferences.getState().initials).toBe('RA');
  });

  it('say what stays locked without a licence, and ask nobody for one who has no call', async () => {
    answers();
    at('licence');
    expect(await screen.findByText('Without a call sign there is nothing to confirm')).toBeInTheDocument();
    expect(screen.queryByRole('checkbox')).toBeNull();
    expect(screen.getByRole('link', { name: 'Pass over this' })).toHaveAttribute('href', '/start?step=where');
  });

  it('add a modem as it is written, on the frequency of the region', async () => {
    const asked = answers({ region: 'europe' });
    at('have');
    const port = await screen.findByLabelText('Port');
    await userEvent.clear(port);
    await userEvent.type(port, '99999');
    await userEvent.click(screen.getByRole('button', { name: 'Add and connect' }));
    expect(changes(asked)).toEqual([]);
    await userEvent.clear(port);
    await userEvent.type(port, '8002');
    await userEvent.click(screen.getByRole('button', { name: 'Add and connect' }));
    await waitFor(() =>
      expect(changes(asked)[0]!.body).toMatchObject({
        config: { kind: 'kiss-tcp', host: '127.0.0.1', port: 8002, frequencyMHz: 144.8 },
      }),
    );
    await userEvent.click(screen.getByText('On a cable'));
    await userEvent.click(await screen.findByRole('button', { name: 'Choose: /dev/ttyUSB0' }));
    await userEvent.click(screen.getByRole('button', { name: 'Add and connect' }));
    await waitFor(() =>
      expect(changes(asked)[1]!.body).toMatchObject({
        config: { kind: 'kiss-serial', device: '/dev/ttyUSB0', speedBd: 9600 },
      }),
    );
    await userEvent.click(screen.getByText('None yet'));
    expect(screen.getByText('npm start')).toBeInTheDocument();
  });

  it('tell how long it took to hear the first station, and one next step', async () => {
    const since = '2026-11-25T07:56:00.000Z';
    const up = modemLink({ state: { link: 'up', since, reason: null, nextTryAt: null } });
    answers({ call: 'QT2AR' }, [up], {
      'GET /api/v1/stations': { body: [heardStation({ call: 'QT0BR-1', firstAt: AT })] },
    });
    at('listen');
    expect(await screen.findByText('QT0BR-1')).toBeInTheDocument();
    expect(screen.getByText(/after 4 min/)).toBeInTheDocument();
    expect(screen.getByRole('link', { name: 'Show the chart' })).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Go to Traffic' }));
    expect(usePreferences.getState().firstStepsOver).toBe(true);
  });

  it('say why nothing is heard', async () => {
    const down = modemLink({
      state: { link: 'down', since: AT, reason: 'Nobody listens on 127.0.0.1:8001.', nextTryAt: null },
    });
    answers({}, [down]);
    at('listen');
    expect(await screen.findByText('Modem is not connected')).toBeInTheDocument();
    expect(screen.getByText('Nobody listens on 127.0.0.1:8001.')).toBeInTheDocument();
  });
});

import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { PositionNow, TransmissionView } from '@tombolo/contract';
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
const NOW: PositionNow = { source: { by: 'typed' }, position: settings.position, receiver: null };
const RECEIVER: NonNullable<PositionNow['receiver']> = {
  link: 'up',
  reason: null,
  read: 40,
  wrong: 0,
  lastWrong: null,
  fix: {
    latitude: 41.269,
    longitude: -43.285,
    altitudeM: 12,
    courseDeg: null,
    speedKnots: null,
    satellites: 8,
    hdop: 1.2,
    toldAt: AT,
    receivedAt: AT,
  },
  fresh: true,
  lostAt: null,
  clockAheadS: 0.2,
  silentS: null,
};
const answers = (more: Record<string, { status?: number; body: unknown }> = {}) =>
  stationAnswers({
    'GET /api/v1/settings': { body: settings },
    'GET /api/v1/position': { body: NOW },
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
    answers({ 'GET /api/v1/position': { body: { ...NOW, position: null } } });
    renderPiece(<PositionPlace />);
    expect(await screen.findByText('It is not known where this station is')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Send our position/ })).toBeNull();
  });
});

describe('a position that is typed', () => {
  it('is shown in every form, with what its digits leave open, before it is kept', async () => {
    const asked = answers({ 'PATCH /api/v1/settings': { body: settings } });
    renderPiece(<PositionPlace />);
    const field = await screen.findByRole('textbox', { name: 'Another position' });
    await userEvent.type(field, 'somewhere');
    await userEvent.click(screen.getByRole('button', { name: 'We are there' }));
    expect(screen.getByText('no position in any of these forms')).toBeTruthy();
    expect(asked.some(({ method }) => method === 'PATCH')).toBe(false);
    await userEvent.clear(field);
    await userEvent.type(field, '23T PF 43648 70037');
    expect(screen.getByText('By its digits it says the place to within about 1 m.')).toBeTruthy();
    expect(screen.getAllByText('41° 16.140′ N, 43° 17.100′ W')).toHaveLength(2);
    await userEvent.click(screen.getByRole('button', { name: 'We are there' }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({
        position: { latitude: expect.closeTo(41.269, 4), longitude: expect.closeTo(-43.285, 4) },
      }),
    );
  });

  it('may be what the device says', async () => {
    answers();
    Object.defineProperty(navigator, 'geolocation', {
      configurable: true,
      value: {
        getCurrentPosition: (take: (position: object) => void) => take({ coords: { latitude: 41.5, longitude: -43 } }),
      },
    });
    renderPiece(<PositionPlace />);
    await userEvent.click(await screen.findByRole('button', { name: 'Ask this device' }));
    expect(screen.getByRole('textbox', { name: 'Another position' })).toHaveValue('41.50000 -43.00000');
  });
});

describe('a position receiver', () => {
  const says = (more: Partial<typeof RECEIVER>, position = NOW.position) =>
    answers({
      'GET /api/v1/position': {
        body: {
          source: { by: 'serial', device: '/dev/ttyUSB0', speedBd: 4800 },
          position,
          receiver: { ...RECEIVER, ...more },
        },
      },
    });

  it('tells how good its fix is, and whether its clock agrees', async () => {
    says({});
    renderPiece(<PositionPlace />);
    expect(
      await screen.findByText(/^Fix, .* old: 8 satellites, dilution 1\.2, good, 12 m above the sea$/),
    ).toBeTruthy();
    expect(screen.getByText('Its clock agrees with ours.')).toBeTruthy();
    expect(screen.getByText('It comes from: a receiver on /dev/ttyUSB0, 4800 Bd.')).toBeTruthy();
    expect(screen.queryByRole('textbox', { name: 'Another position' })).toBeNull();
  });

  it('says when the fix is lost, and offers nothing to send', async () => {
    says({ fresh: false, lostAt: AT, wrong: 2, lastWrong: 'a sentence without a checksum', clockAheadS: 3600 }, null);
    renderPiece(<PositionPlace />);
    expect(await screen.findByText('The fix is lost')).toBeTruthy();
    expect(screen.getByText(/^2 lines of 40 could not be trusted/)).toBeTruthy();
    expect(screen.getByText(/^Its clock is 60 min ahead of ours/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Send our position/ })).toBeNull();
  });

  it('says what a line may have on which nothing comes at all', async () => {
    says({ fresh: false, fix: null, read: 0, silentS: 45 }, null);
    renderPiece(<PositionPlace />);
    expect(
      await screen.findByText(
        'Not one octet has come over its line for 45 s: it may be off or unplugged, or its transmit and receive lines are swapped.',
      ),
    ).toBeTruthy();
  });

  it('is chosen with what it needs, and what is none is said at its field', async () => {
    const asked = answers({ 'PATCH /api/v1/settings': { body: settings } });
    renderPiece(<PositionPlace />);
    await userEvent.click(await screen.findByRole('button', { name: 'Change where it comes from' }));
    await userEvent.click(screen.getByRole('radio', { name: 'A receiver on a serial line' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Device' }), 'gps');
    await userEvent.click(screen.getByRole('button', { name: 'Take it from there' }));
    expect(await screen.findByText('the name of a device, such as /dev/ttyUSB0')).toBeTruthy();
    expect(asked.some(({ method }) => method === 'PATCH')).toBe(false);
    await userEvent.click(screen.getByRole('radio', { name: 'gpsd' }));
    expect(screen.getByRole('textbox', { name: 'Port' })).toHaveValue('2947');
    await userEvent.click(screen.getByRole('button', { name: 'Take it from there' }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({
        positionSource: { by: 'gpsd', host: '127.0.0.1', port: 2947 },
      }),
    );
  });
});

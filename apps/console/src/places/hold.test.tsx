import { act, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useConnection } from '../live/feed';
import { renderPiece, stationAnswers } from '../testing/render';
import { openSettings } from '../testing/samples';
import { HeldBanner, HoldButton } from './hold';
import { NotStoring } from './not-storing';

const SINCE = '2026-11-25T14:02:00.000Z';

describe('holding everything', () => {
  it('is one press', async () => {
    const asked = stationAnswers({
      'GET /api/v1/settings': { body: openSettings },
      'PUT /api/v1/hold': { body: { heldSince: SINCE, atEquipment: [], waiting: 3 } },
    });
    renderPiece(<HoldButton />);
    await userEvent.click(await screen.findByRole('button', { name: 'Hold all that would go out' }));
    await waitFor(() => expect(asked.find(({ method }) => method === 'PUT')!.body).toEqual({ held: true }));
  });

  it('names what the equipment has that nobody here can stop, and lets it go on', async () => {
    const untilAt = new Date(Date.now() + 60_000).toISOString();
    const asked = stationAnswers({
      'GET /api/v1/settings': { body: { ...openSettings, heldSince: SINCE } },
      'GET /api/v1/hold': {
        body: {
          heldSince: SINCE,
          atEquipment: [{ bearerId: 'radio', bearer: 'Modem', line: 'QT2AR-7>APZTOM::QT6CL', untilAt }],
          waiting: 2,
        },
      },
      'PUT /api/v1/hold': { body: { heldSince: null, atEquipment: [], waiting: 2 } },
    });
    renderPiece(
      <>
        <HoldButton />
        <HeldBanner />
      </>,
    );
    expect(await screen.findByText(/^Everything is held since .*14:02Z$/)).toBeTruthy();
    expect(await screen.findByText('2 waiting here.')).toBeTruthy();
    expect(screen.getByText('QT2AR-7>APZTOM::QT6CL')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Hold all that would go out' })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Let it go on' }));
    await waitFor(() => expect(asked.find(({ method }) => method === 'PUT')!.body).toEqual({ held: false }));
  });
});

describe('a station that does not store', () => {
  it('is told on every place, with what waits and what is lost, and no longer than it is so', () => {
    renderPiece(<NotStoring />);
    expect(screen.queryByRole('alert')).toBeNull();
    act(() =>
      useConnection.setState({
        storing: { storing: false, since: SINCE, reason: 'the disk is full', waiting: 12, lost: 4 },
      }),
    );
    expect(screen.getByText(/^Not storing since .*14:02Z$/)).toBeTruthy();
    expect(screen.getByText(/the disk is full.*12 receptions wait.*For 4 more there was no room/)).toBeTruthy();
    act(() => useConnection.setState({ storing: { storing: true, since: null, reason: null, waiting: 0, lost: 0 } }));
    expect(screen.queryByRole('alert')).toBeNull();
  });
});

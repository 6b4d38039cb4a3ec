import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { DevicePosition } from '../../live/device-position';
import { renderPiece, stationAnswers } from '../../testing/render';
import { openSettings } from '../../testing/samples';
import { MovedWords, movedKm, StationHere } from './station-here';

const typed = { ...openSettings, position: { latitude: 41.269, longitude: -43.285 } };
const device = (latitude: number, accuracyM = 10): DevicePosition => ({
  state: 'known',
  latitude,
  longitude: -43.285,
  accuracyM,
  atMs: 0,
});

describe('a typed position and where we are', () => {
  it('are the same place while they are near, or the device is not sure, or a receiver tells', () => {
    expect(movedKm(device(41.27), typed)).toBeNull();
    expect(movedKm(device(41.289), typed)).toBeCloseTo(2.22, 1);
    expect(movedKm(device(41.289, 5000), typed)).toBeNull();
    expect(movedKm({ state: 'asking' }, typed)).toBeNull();
    expect(movedKm(device(41.289), { ...typed, position: null })).toBeNull();
    expect(movedKm(device(41.289), { ...typed, positionSource: { by: 'gpsd', host: 'h', port: 1 } })).toBeNull();
  });

  it('are told apart in words, and made one at a press that can be taken back', async () => {
    const asked = stationAnswers({ 'PATCH /api/v1/settings': { body: typed } });
    renderPiece(<MovedWords device={device(41.289)} settings={typed} unit="km" />);
    expect(
      screen.getByText('This device is 2.2 km from the position that was typed for the station.'),
    ).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'The station is here' }));
    await userEvent.click(await screen.findByRole('button', { name: 'Undo' }));
    await waitFor(() => expect(asked).toHaveLength(2));
    expect(asked.map(({ body }) => body)).toEqual([
      { position: { latitude: 41.289, longitude: -43.285 } },
      { position: typed.position },
    ]);
    expect(await screen.findByRole('button', { name: 'The station is here' })).toBeInTheDocument();
  });

  it('say what went wrong, and offer nothing where a receiver tells', async () => {
    stationAnswers({});
    const { unmount } = renderPiece(
      <StationHere point={{ latitude: 1, longitude: 2 }} settings={typed} title="We are here" />,
    );
    await userEvent.click(screen.getByRole('button', { name: 'We are here' }));
    expect(await screen.findByText(/^The station does not answer/)).toBeInTheDocument();
    unmount();
    renderPiece(
      <StationHere
        point={{ latitude: 1, longitude: 2 }}
        settings={{ ...typed, positionSource: { by: 'tcp', host: 'h', port: 1 } }}
        title="We are here"
      />,
    );
    expect(screen.queryByRole('button')).toBeNull();
  });
});

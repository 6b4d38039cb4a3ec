import { act, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { leaveDevice } from '../../live/device-position';
import { fakeGeolocation } from '../../testing/geolocation';
import { renderPiece, stationAnswers } from '../../testing/render';
import { heardStation, openSettings } from '../../testing/samples';
import { useChart } from './chart-store';
import type { ChartMapProps } from './map/chart-map';
import { MapPane, measureWords } from './map-pane';

/** In place of the drawn map: notes what it is given, and what it is told. */
let given: ChartMapProps | null = null;
const told: string[] = [];
jest.mock('./map/chart-map', () => ({
  __esModule: true,
  default: function FakeMap(props: ChartMapProps) {
    const { useEffect } = jest.requireActual<typeof import('react')>('react');
    given = props;
    const { onReady } = props;
    useEffect(() => {
      onReady({
        zoomBy: (steps: number) => told.push(`zoom ${steps}`),
        showAll: () => told.push('all'),
        middle: () => ({ latitude: 41.5, longitude: -43 }),
      } as never);
    }, [onReady]);
    return null;
  },
}));

const station = { latitude: 41.269, longitude: -43.285 };
const settings = { ...openSettings, position: station };
const trails = [
  { call: 'QT3TK-14', steps: [1, 2, 3, 4] },
  { call: 'HIDDEN', steps: [1, 2, 3, 4] },
];
const unit = (name: string, more: object) => ({
  unit: name,
  name,
  latitude: 41.2,
  longitude: -43.3,
  at: '2026-11-25T08:00:00.000Z',
  batteryPercent: null,
  emergency: false,
  symbol: '/[',
  showBattery: false,
  bridged: false,
  stale: false,
  ...more,
});
const UNITS = [
  unit('SHOWN', {}),
  unit('ON AIR', { bridged: true }),
  unit('OLD', { bridged: true, stale: true }),
  unit('mesh 01D1-0005', { name: '01D1-0005' }),
];
const pane = async (more: Partial<Parameters<typeof MapPane>[0]> = {}) => {
  const asked = stationAnswers({
    'GET /api/v1/trails': { body: trails },
    'GET /api/v1/maps': { body: [] },
    'GET /api/v1/heard-links': { body: [] },
    'GET /api/v1/trackers': { body: { feed: null, askedAt: null, fault: null, units: UNITS } },
  });
  const selected: (string | null)[] = [];
  renderPiece(
    <MapPane
      stations={[heardStation()]}
      selected={null}
      onSelect={(call) => selected.push(call)}
      settings={settings}
      {...more}
    />,
  );
  await screen.findByRole('toolbar', { name: 'Map tools' });
  await waitFor(() => expect(given).not.toBeNull());
  return { asked, selected };
};
const press = (name: string) => userEvent.click(screen.getByRole('button', { name }));

let device: ReturnType<typeof fakeGeolocation>;
beforeEach(() => {
  device = fakeGeolocation();
  given = null;
  told.length = 0;
  useChart.getState().change({ follow: null, measured: null, hiddenMaps: [] });
});
afterEach(() => {
  act(() => leaveDevice());
  device.remove();
});

describe('the map and its tools', () => {
  it('shows trackers that nobody heard, but not those that are on the air as objects', async () => {
    await pane();
    await waitFor(() => expect(given!.trackers.map(({ name }) => name)).toEqual(['SHOWN', 'OLD']));
  });

  it('shows trails of what is shown, asks for links when they are wanted, and is moved by its tools', async () => {
    useChart.getState().change({ layers: { ...useChart.getState().layers, trails: true, links: false } });
    const { asked } = await pane();
    await waitFor(() => expect(given!.trails.map(({ call }) => call)).toEqual(['QT3TK-14']));
    expect(asked.some(({ path }) => path.includes('heard-links'))).toBe(false);
    await press('Nearer');
    await press('Farther');
    await press('Show all');
    expect(told).toEqual(['zoom 1', 'zoom -1', 'all']);
    act(() => useChart.getState().change({ layers: { ...useChart.getState().layers, links: true } }));
    await waitFor(() => expect(asked.some(({ path }) => path.includes('heard-links'))).toBe(true));
    act(() => useChart.getState().change({ layers: { ...useChart.getState().layers, links: false } }));
  });

  it('measures between two taps, from the middle and from our place; a third tap begins anew', async () => {
    await pane();
    await press('Measure');
    expect(screen.getByText('Tap where to measure from.')).toBeTruthy();
    await press('Add my position');
    expect(screen.getByText('From GN81ig. Tap where to measure to.')).toBeTruthy();
    await press('Add the middle of the map');
    expect(screen.getByText(measureWords([station, { latitude: 41.5, longitude: -43 }], 'km'))).toBeTruthy();
    act(() => given!.onMeasure({ latitude: 0, longitude: 0 }));
    expect(useChart.getState().measured).toEqual([{ latitude: 0, longitude: 0 }]);
    await press('Stop measuring');
    expect(useChart.getState().measured).toBeNull();
  });

  it('follows a station until the map is dragged', async () => {
    await pane();
    act(() => useChart.getState().change({ follow: 'QT3TK-14' }));
    expect(given!.following).toEqual({ latitude: 41.2195, longitude: -43.433 });
    act(() => given!.onDragged());
    expect(useChart.getState().follow).toBeNull();
    expect(given!.following).toBeNull();
    act(() => useChart.getState().change({ follow: 'NOBODY' }));
    expect(given!.following).toBeNull();
  });

  it('follows this device, keeps still while it is asked, and stays where it is when dragged', async () => {
    await pane();
    await press('Follow me');
    expect(screen.getByText('Asking this device where it is …')).toBeTruthy();
    expect(given!.following).toBeNull();
    act(() => device.move(41.3, -43.4, 15));
    expect(given!.following).toMatchObject({ latitude: 41.3, longitude: -43.4 });
    expect(given!.own).toMatchObject({ latitude: 41.3 });
    expect(screen.getByText(/^Following this device: GN81hh, within 15 m/)).toBeTruthy();
    act(() => given!.onDragged());
    expect(given!.following).toBeNull();
    // Its place is still known, and still ours.
    act(() => device.move(41.31, -43.4));
    expect(given!.own).toMatchObject({ latitude: 41.31 });
    await press('Follow me');
    await press('Stop following me');
    expect(device.watchers).toBe(0);
    expect(given!.own).toEqual(station);
  });

  it('follows the settings where the device tells nothing', async () => {
    await pane();
    await press('Follow me');
    act(() => device.fail(1));
    expect(screen.getByText(/Following the position in the settings\.$/)).toBeTruthy();
    expect(given!.following).toEqual(station);
  });

  it('says which map could not be drawn, and goes on', async () => {
    const { selected } = await pane();
    act(() => given!.onMapTrouble('roads', 'the station answered 500'));
    expect(screen.getByText('A map could not be drawn – roads: the station answered 500')).toBeTruthy();
    await press('Close');
    expect(screen.queryByText(/could not be drawn/)).toBeNull();
    act(() => given!.onSelect('QT3TK-14'));
    expect(selected).toEqual(['QT3TK-14']);
  });
});

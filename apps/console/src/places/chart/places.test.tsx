import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ImportView } from '@tombolo/contract';
import { usePreferences } from '../../live/preferences';
import { renderPiece, stationAnswers } from '../../testing/render';
import { AT, heardStation, measured, openSettings } from '../../testing/samples';
import { ImportPanel } from '../log/import-panel';
import { ReadingsBoard } from './boards/readings-board';
import { CallingPlace } from './calling-place';
import { useChart } from './chart-store';
import { NO_FILTER } from './filter';
import { LinksHeardPlace } from './links-heard-place';
import { MapsPlace } from './maps-place';
import { StationList } from './station-list';

const soon = () => new Date().toISOString();
const settings = { ...openSettings, voiceMHz: 146.52 };

describe('the list of stations', () => {
  const list = (rows: ReturnType<typeof heardStation>[], total = rows.length) => {
    stationAnswers({ 'GET /api/v1/bearers': { body: [] } });
    const selected: string[] = [];
    renderPiece(
      <StationList
        head={<></>}
        rows={rows}
        total={total}
        loading={false}
        error={null}
        retry={() => undefined}
        unit="km"
        selected={null}
        onSelect={(call) => selected.push(call)}
      />,
    );
    return selected;
  };
  beforeEach(() => useChart.getState().change({ filter: NO_FILTER, order: 'newest' }));

  it('tells of each who, where, what and how, and opens it', async () => {
    const selected = list([heardStation({ lastAt: new Date(Date.now() - 80_000).toISOString() })]);
    const row = screen.getByRole('link', { name: /^QT3TK-14/ });
    for (const words of [
      '14 km WSW (249°)',
      'toward SSE (157°) at 33 km/h, Supplies',
      'heard via QT0TH-3, 1 min ago',
      'truck',
    ])
      expect(within(row).getByText(words)).toBeTruthy();
    await userEvent.click(row);
    expect(selected).toEqual(['QT3TK-14']);
  });
  it('shouts about a stranger’s word, and says what is muted', () => {
    list([heardStation({ muted: true, conflict: 'QT1BB says that it is gone' })]);
    expect(screen.getByText('QT1BB says that it is gone')).toBeTruthy();
    expect(screen.getByText(/ – muted$/)).toBeTruthy();
  });
  it('offers to clear a filter that hides everything', async () => {
    useChart.getState().change({ filter: { ...NO_FILTER, text: 'nobody', withinKm: 5 } });
    list([], 12);
    expect(screen.getByText('0 of 12 stations and objects')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Filters (1 set)' })).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Clear the filter' }));
    expect(useChart.getState().filter).toEqual(NO_FILTER);
  });
  it('filters finer by distance, age and what is hidden', async () => {
    list([heardStation()]);
    await userEvent.click(screen.getByRole('button', { name: 'Filters' }));
    await userEvent.click(screen.getByRole('button', { name: '25 km' }));
    await userEvent.click(screen.getByRole('button', { name: '10 min' }));
    await userEvent.click(screen.getByRole('checkbox', { name: /^Show muted stations/ }));
    expect(useChart.getState().filter).toMatchObject({ withinKm: 25, withinMin: 10, hidden: true });
    await userEvent.click(screen.getByRole('button', { name: 'Any distance' }));
    expect(useChart.getState().filter.withinKm).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Newest: first' }));
    expect(useChart.getState().order).toBe('nearest');
  });
});

describe('voice alert', () => {
  it('lists who may answer, says the words, and why to keep it short', async () => {
    stationAnswers({
      'GET /api/v1/settings': { body: settings },
      'GET /api/v1/stations': {
        body: [
          heardStation({ call: 'QT7SH-5', symbol: '/[', directAt: soon(), distanceKm: 0.1 }),
          heardStation({ call: 'QT0BR-1', symbol: '/#', directAt: soon() }),
          heardStation({ call: 'QT3TK-14' }),
        ],
      },
    });
    renderPiece(<CallingPlace />);
    const list = await screen.findByRole('list', { name: 'In direct range' });
    expect(await within(list).findAllByRole('listitem')).toHaveLength(1);
    expect(within(list).getByText('QT7SH-5')).toBeTruthy();
    expect(screen.getByText('“QT2AR-7, voice alert, listening on 146.520”')).toBeTruthy();
    expect(screen.getByText(/blocks the packets of 32 to 48 km around/)).toBeTruthy();
  });
  it('asks for the frequency first, and teaches an empty list', async () => {
    stationAnswers({ 'GET /api/v1/settings': { body: openSettings }, 'GET /api/v1/stations': { body: [] } });
    renderPiece(<CallingPlace />);
    expect(await screen.findByText('Nobody is in direct range now')).toBeTruthy();
    expect(await screen.findByText('Say first on what frequency you listen for voice')).toBeTruthy();
  });
});

describe('who hears whom', () => {
  const link = {
    from: 'QT3TK-14',
    by: 'QT0TH-3',
    count: 12,
    firstCount: 12,
    fromName: null,
    byName: null,
    certainCount: 9,
    firstAt: AT,
    lastAt: AT,
    bestKm: 4.2,
    bestAt: AT,
  };
  it('says it in words, and finds a call', async () => {
    stationAnswers({
      'GET /api/v1/heard-links': {
        body: [
          link,
          { ...link, from: 'QT0TH-3', by: 'QT2AR-7', firstCount: 0, certainCount: 0, bestKm: null, bestAt: null },
        ],
      },
    });
    usePreferences.getState().prefer({ distanceUnit: 'nmi' });
    renderPiece(<LinksHeardPlace />);
    expect(await screen.findByText('QT0TH-3 hears QT3TK-14')).toBeTruthy();
    expect(await screen.findByText(/its own packets; farthest 2\.3 nmi/)).toBeTruthy();
    expect(screen.getByText(/^proven \d+ ×; last .*its own packets/)).toBeTruthy();
    expect(screen.getByText(/^inferred; .*only packets that it repeated/)).toBeTruthy();
    await userEvent.type(screen.getByRole('textbox', { name: 'Call' }), 'qt2ar');
    expect(screen.queryByText('QT0TH-3 hears QT3TK-14')).toBeNull();
    await userEvent.type(screen.getByRole('textbox', { name: 'Call' }), 'x');
    expect(screen.getByText('No link with that call')).toBeTruthy();
  });
});

describe('maps and layers', () => {
  it('switch what is drawn, hide and remove maps, and refuse other files', async () => {
    const id = '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c40';
    const asked = stationAnswers({
      'GET /api/v1/maps': { body: [{ id, name: 'Hollin Sound', kind: 'geojson', octets: 30_967, createdAt: AT }] },
      [`DELETE /api/v1/maps/${id}`]: { status: 204, body: null },
    });
    renderPiece(<MapsPlace />);
    await userEvent.click(screen.getByRole('checkbox', { name: 'Locator grid' }));
    expect(useChart.getState().layers.locators).toBe(true);
    await userEvent.click(screen.getByRole('button', { name: '24 h' }));
    expect(useChart.getState().trailHours).toBe(24);
    expect(await screen.findByText('GeoJSON, 31.0 kB')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Hide: Hollin Sound' }));
    expect(useChart.getState().hiddenMaps).toEqual([id]);
    await userEvent.click(screen.getByRole('button', { name: 'Show: Hollin Sound' }));
    expect(useChart.getState().hiddenMaps).toEqual([]);
    await userEvent.upload(screen.getByLabelText('Map file'), new File(['x'], 'roads.zip'), { applyAccept: false });
    expect(await screen.findByText(/^roads\.zip is neither GeoJSON/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Remove: Hollin Sound' }));
    await userEvent.click(screen.getByRole('button', { name: 'Remove for good: Hollin Sound' }));
    await waitFor(() => expect(asked.some(({ method }) => method === 'DELETE')).toBe(true));
  });
});

describe('the board of weather', () => {
  it('shows what was measured, what is watched for, and the alarms', async () => {
    const asked = stationAnswers({
      'GET /api/v1/readings': { body: [measured([10, 12, 14])] },
      'GET /api/v1/stations': { body: [heardStation({ call: 'QT5WX-13', comment: 'Veil' })] },
      'GET /api/v1/alarms': {
        body: [
          { id: '1', call: 'QT5WX-13', words: 'Gusts 14.0 m/s – above 12 m/s', at: AT, packetId: null, seenAt: AT },
        ],
      },
      'GET /api/v1/watches': {
        body: [
          {
            id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c41',
            call: 'QT5WX-13',
            quantity: 'weather:gustMph',
            threshold: { when: 'above', limit: 12, withinHours: 1 },
            enabled: true,
            raised: true,
            createdAt: AT,
            name: 'Gusts',
            words: 'above 12 m/s',
          },
        ],
      },
      'PATCH /api/v1/watches/0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c41': { status: 500, body: {} },
    });
    renderPiece(<ReadingsBoard kind="weather" />);
    expect(await screen.findByRole('heading', { name: 'QT5WX-13' })).toBeTruthy();
    expect((await screen.findByRole('list', { name: 'Alarms' })).textContent).toContain(
      'Gusts 14.0 m/s – above 12 m/s',
    );
    expect((await screen.findByRole('list', { name: 'Watched for' })).textContent).toContain('alarm is on');
    await userEvent.click(screen.getByRole('button', { name: 'Switch off: QT5WX-13 Gusts' }));
    await waitFor(() => expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({ enabled: false }));
    await userEvent.click(screen.getByRole('button', { name: '3 h' }));
    await waitFor(() => expect(asked.some(({ path }) => path.includes('hours=3'))).toBe(true));
    await userEvent.click(screen.getByRole('button', { name: 'Watch it: QT5WX-13' }));
    await userEvent.click(screen.getByRole('button', { name: 'is silent for' }));
    const minutes = screen.getByRole('textbox', { name: 'Silence, minutes' });
    await userEvent.type(minutes, '0');
    await userEvent.click(screen.getByRole('button', { name: 'Raise an alarm then' }));
    expect(screen.getByText('Minutes from 1 to 2880')).toBeTruthy();
    await userEvent.clear(minutes);
    await userEvent.type(minutes, '45');
    await userEvent.click(screen.getByRole('button', { name: 'Raise an alarm then' }));
    await waitFor(() =>
      expect(asked.find(({ method, path }) => method === 'POST' && path.endsWith('/watches'))?.body).toMatchObject({
        call: 'QT5WX-13',
        quantity: 'weather:gustMph',
        threshold: { when: 'silent for', limit: 45 },
      }),
    );
    await userEvent.click(screen.getByRole('button', { name: 'Cancel' }));
    expect(screen.queryByRole('button', { name: 'Raise an alarm then' })).toBeNull();
  });
  it('teaches when nothing was heard', async () => {
    stationAnswers({
      'GET /api/v1/readings': { body: [] },
      'GET /api/v1/stations': { body: [] },
      'GET /api/v1/alarms': { body: [] },
      'GET /api/v1/watches': { body: [] },
    });
    renderPiece(<ReadingsBoard kind="telemetry" />);
    expect(await screen.findByText('No telemetry heard yet')).toBeTruthy();
  });
});

describe('a recording that was read', () => {
  it('says what was understood by kind, and why the rest was not', async () => {
    const run: ImportView = {
      id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c42',
      name: 'mixed.txt',
      format: 'monitor',
      startedAt: AT,
      finishedAt: AT,
      totalOctets: 100,
      readOctets: 100,
      understood: 5,
      notUnderstood: 3,
      kinds: [
        { kind: 'position', count: 4 },
        { kind: 'Mic-E', count: 1 },
      ],
      reasons: [{ reason: 'the latitude is off the globe', count: 3 }],
      packets: 8,
      problem: null,
    };
    stationAnswers({
      'GET /api/v1/imports': { body: [run] },
      'GET /api/v1/failures': { body: { rows: [], next: null } },
    });
    renderPiece(<ImportPanel />);
    expect(await screen.findByText('Understood: 4 position, 1 Mic-E')).toBeTruthy();
    expect(
      within(screen.getByRole('list', { name: 'Why not understood' })).getByText('3 × the latitude is off the globe'),
    ).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Show what was not understood: mixed.txt' }));
    expect(await screen.findByRole('list', { name: 'Not understood' })).toBeTruthy();
  });
});

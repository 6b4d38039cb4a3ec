import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Alarm } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../testing/render';
import { AT, heardStation, measured, openSettings } from '../../testing/samples';
import { usePreferences } from '../../live/preferences';
import { AlarmBanner } from '../alarm-banner';
import { written } from '../../testing/drafts';
import { ReadingCharts, trendWords } from './boards/reading-charts';
import { WatchForm } from './boards/watch-form';
import { StationPage } from './station/station-panel';
import { LineChart, chartScale } from '../../ui/line-chart';

const NOW = Date.parse(AT);
const page = (more: Parameters<typeof heardStation>[0] = {}) => {
  const asked = stationAnswers({
    'GET /api/v1/settings': { body: openSettings },
    'GET /api/v1/packets': { body: { rows: [], next: null } },
    'GET /api/v1/stations': { body: [] },
    'PATCH /api/v1/stations/QT3TK-14': { body: heardStation({ ...more, muted: true }) },
  });
  renderPiece(<StationPage station={heardStation(more)} unit="km" />);
  return asked;
};

describe('the page of a station', () => {
  it('explains how it was heard, what is certain and what is not', () => {
    const said = (words: string, certain: boolean) => ({
      words,
      certain,
      facts: [{ from: 'packet' as const, words: 'x' }],
    });
    page({
      line: 'QT3TK-14>APRS,QT0BR-1,QT0TH-3,WIDE2*:=x',
      statements: [said('QT0BR-1 heard QT3TK-14.', false), said('At least one hop was used.', true)],
    });
    const list = screen.getByRole('list', { name: 'What the path of its last packet says' });
    // What is proven comes first.
    expect(
      within(list)
        .getAllByRole('listitem')
        .map(({ textContent }) => textContent),
    ).toEqual([
      expect.stringContaining('Certain: At least one hop was used.'),
      expect.stringContaining('Inferred: QT0BR-1 heard QT3TK-14.'),
    ]);
    expect(screen.getByText('14 km WSW (249°)')).toBeTruthy();
    expect(screen.getByText('It takes texts.')).toBeTruthy();
  });
  it('of a node of a mesh tells its number, and writes to it by mesh', async () => {
    page({ kind: 'node', call: '01D1-0003', name: 'BCNRIG', symbol: null, comment: 'Beacon Rigg, carrier' });
    expect(screen.getByRole('heading', { name: 'BCNRIG', level: 1 })).toBeTruthy();
    expect(screen.getByText('Node of a mesh, number 01D1-0003')).toBeTruthy();
    expect(screen.queryByText(/frequency for voice/)).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Write by mesh: BCNRIG' }));
    expect(written()).toMatchObject({ addressee: '01D1-0003', way: 'mesh', answers: null });
  });
  it('shows how to set the radio, with the caution', () => {
    page({
      frequency: {
        frequencyMHz: 146.94,
        toneHz: 100,
        toneSquelch: false,
        dcs: null,
        toneOff: false,
        offsetMHz: -0.6,
        rangeKm: null,
        narrow: false,
        toneBurst: false,
        receiveMHz: null,
      },
    });
    const list = screen.getByRole('list', { name: 'How to set the radio' });
    expect(within(list).getByText('146.340 MHz (offset −0.600 MHz)')).toBeTruthy();
    expect(within(list).getByText(/where your licence and the local band plan allow it/)).toBeTruthy();
  });
  it('writes out what a stranger hid in a text, and shouts about a stranger’s word on an object', () => {
    page({ kind: 'object', call: ';RAMP', name: 'RA\u202eMP', owner: 'QT1BA', conflict: 'QT1BB says that it is gone' });
    expect(screen.getByRole('heading', { level: 1, name: 'RA⟨U+202E⟩MP' })).toBeTruthy();
    expect(screen.getByRole('alert').textContent).toContain('QT1BB says that it is gone');
    expect(screen.queryByText('It takes texts.')).toBeNull();
  });
  it('says what was kept off the trail', () => {
    const at = { courseDeg: null, speedKnots: null, altitudeM: null, at: AT };
    page({
      trail: [
        { ...at, latitude: 41.2, longitude: -43.4, fault: null },
        { ...at, latitude: 41.3, longitude: -43.4, fault: null },
        { ...at, latitude: 10, longitude: 10, fault: 'jump' },
      ],
    });
    expect(screen.getByText(/^2 places since .*, 11 km in all\.$/)).toBeTruthy();
    expect(screen.getByText('One place was kept off the trail')).toBeTruthy();
  });
  it('mutes at once', async () => {
    const asked = page();
    await userEvent.click(screen.getByRole('checkbox', { name: 'Mute' }));
    await waitFor(() => expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({ muted: true }));
  });
});

describe('readings', () => {
  it('have a trend in words', () => {
    const { series } = measured([10, 12, 14, 16, 18]);
    expect(trendWords(series[0]!, NOW)).toBe('rising fast, +4.0 m/s an hour');
    expect(trendWords(measured([10, 10, 10]).series[0]!, NOW)).toBe('steady');
    expect(trendWords(measured([10, 11]).series[0]!, NOW)).toBeNull();
    const telemetry = (...values: number[]) => trendWords({ ...measured(values).series[0]!, pace: null }, NOW);
    expect([telemetry(9, 9, 9, 9), telemetry(0.1, 0.1, 0.1), telemetry(1, 2, 3)]).toEqual([
      'steady',
      'steady',
      'rising fast, +2.0 m/s an hour',
    ]);
    expect(trendWords({ ...series[0]!, unit: '°' }, NOW)).toBeNull();
  });
  it('say that values are as sent where nothing was defined', () => {
    renderPiece(
      <ReadingCharts readings={measured([1], { kind: 'telemetry', defined: false })} title="Telemetry" now={NOW} />,
    );
    expect(screen.getByText('It has not said what its channels mean: values are as sent.')).toBeTruthy();
  });
  it('draw a line that says in words what it shows, inside its frame', () => {
    const points = measured([10, 30, 20]).series[0]!.points;
    renderPiece(<LineChart title="Gusts" unit="m/s" decimals={1} points={points} width={300} limit={35} now={NOW} />);
    expect(screen.getByRole('img')).toHaveAccessibleName(
      /^Gusts: now 20\.0 m\/s, lowest 10\.0 m\/s, highest 30\.0 m\/s, 3 values since/,
    );
    const { x, y } = chartScale(points, 300, 96, 35);
    for (const { at, value } of points) {
      expect(x(at)).toBeGreaterThanOrEqual(52);
      expect(x(at)).toBeLessThanOrEqual(292);
      expect(y(value)).toBeGreaterThanOrEqual(8);
      expect(y(value)).toBeLessThanOrEqual(76);
    }
    expect(y(35)).toBeLessThan(y(30));
    const flat = chartScale([{ at: AT, value: 5 }], 300, 96);
    expect([flat.x(AT), Math.round(flat.y(5))]).toEqual([150, 42]);
  });
});

describe('a watch', () => {
  it('asks for a number, and for hours where a change is meant', async () => {
    const asked = stationAnswers({ 'POST /api/v1/watches': { status: 500, body: {} } });
    renderPiece(<WatchForm readings={measured([10])} done={() => undefined} />);
    await userEvent.click(screen.getByRole('button', { name: 'Raise an alarm then' }));
    expect(screen.getByText('A number such as 20 or 0.3')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'rises by' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Limit, m/s' }), '0,5');
    await userEvent.clear(screen.getByRole('textbox', { name: 'Within, hours' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Within, hours' }), '99');
    await userEvent.click(screen.getByRole('button', { name: 'Raise an alarm then' }));
    expect(screen.getByText('Hours from 0.25 to 48')).toBeTruthy();
    expect(asked).toHaveLength(0);
    await userEvent.clear(screen.getByRole('textbox', { name: 'Within, hours' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Within, hours' }), '3');
    await userEvent.click(screen.getByRole('button', { name: 'Raise an alarm then' }));
    await waitFor(() =>
      expect(asked[0]?.body).toMatchObject({
        call: 'QT5WX-13',
        quantity: 'weather:gustMph',
        threshold: { when: 'rises by', limit: 0.5, withinHours: 3 },
      }),
    );
    await screen.findByText(/^Not kept/);
  });
});

describe('an alarm', () => {
  const alarm: Alarm = {
    id: '7',
    call: 'QT8PH-12',
    words: 'Level 1.80 m – above 1.7 m',
    at: AT,
    packetId: null,
    seenAt: null,
    kind: 'watch',
    drill: false,
    takenBy: null,
    endedAt: null,
  };
  it('stands above everything until it was seen', async () => {
    const asked = stationAnswers({
      'GET /api/v1/alarms': { body: [alarm, { ...alarm, id: '6' }, { ...alarm, id: '5', seenAt: AT }] },
      'POST /api/v1/alarms/7/seen': { body: { ...alarm, seenAt: AT } },
    });
    renderPiece(<AlarmBanner />);
    expect((await screen.findByRole('alert')).textContent).toContain('Level 1.80 m – above 1.7 m');
    expect(screen.getByText('and 1 more')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: /^I have seen it/ }));
    await waitFor(() =>
      expect(asked.some(({ path, method }) => method === 'POST' && path.endsWith('/alarms/7/seen'))).toBe(true),
    );
  });
  it('of a call for help stays until somebody has taken it by name, and says what this is not', async () => {
    usePreferences.getState().prefer({ initials: '' });
    const help: Alarm = {
      ...alarm,
      id: '9',
      kind: 'emergency',
      drill: true,
      words: 'calls for help, by its symbol',
      seenAt: AT,
    };
    const asked = stationAnswers({
      'GET /api/v1/alarms': { body: [alarm, help] },
      'GET /api/v1/stations': { body: [heardStation({ call: help.call, distanceKm: 3.2, azimuthDeg: 45 })] },
      'POST /api/v1/alarms/9/taking': { body: { ...help, takenBy: 'AR' } },
    });
    renderPiece(<AlarmBanner />);
    const banner = await screen.findByRole('alert');
    expect(banner.textContent).toContain(`Drill: emergency: ${help.call}`);
    expect(banner.textContent).toContain('This is no rescue service.');
    await waitFor(() => expect(banner.textContent).toContain('3.2 km NE'));
    await userEvent.click(screen.getByRole('button', { name: /^I take it/ }));
    expect(asked.some(({ method }) => method === 'POST')).toBe(false);
    await userEvent.type(screen.getByRole('textbox', { name: 'Your initials' }), 'AR');
    await userEvent.click(screen.getByRole('button', { name: /^I take it, AR/ }));
    await waitFor(() => expect(asked.find(({ method }) => method === 'POST')?.body).toEqual({ by: 'AR' }));
  });
  it('is not there when there is none', async () => {
    stationAnswers({ 'GET /api/v1/alarms': { body: [] } });
    const { container } = renderPiece(<AlarmBanner />);
    await waitFor(() => expect(container.textContent).toBe(''));
  });
});

import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { PacketDetail, PacketSummary } from '@tombolo/contract';
import { usePreferences } from '../../live/preferences';
import { renderPiece, stationAnswers } from '../../testing/render';
import { AT, boardLink } from '../../testing/samples';
import { octetRows, PacketPanel } from '../packet/packet-panel';
import { copiesWords } from '../packet/packet-row';
import { HeardLog } from './heard-log';

const summary = (more: Partial<PacketSummary> = {}): PacketSummary => ({
  id: '7',
  at: AT,
  sourceName: null,
  source: 'QT3PC-9',
  destination: 'S32UVT',
  kind: 'Mic-E',
  addressee: null,
  summary: '33° 25.64′ N 112° 7.74′ W – 251° at 20 kn – Returning',
  copies: [
    {
      id: '1',
      at: AT,
      bearerId: 'radio',
      importId: null,
      port: 0,
      how: 'relayed',
      via: ['QT0TH-3'],
      words: 'heard via QT0TH-3',
      frequencyHz: null,
      snrDb: null,
      rssiDbm: null,
      hops: null,
      line: 'QT3PC-9>S32UVT,QT0TH-3*:`(_fn"Oj/',
    },
  ],
  ...more,
});

/** Pasted: a list that is asked for at each key takes its time. */
const enter = async (name: string, text: string) => {
  await userEvent.clear(screen.getByRole('textbox', { name }));
  await userEvent.paste(text);
};

describe('what was heard, in the log', () => {
  const open = (rows: PacketSummary[], next: string | null = null) => {
    const asked = stationAnswers({
      'GET /api/v1/packets': { body: { rows, next } },
      'GET /api/v1/bearers': { body: [boardLink({ id: 'radio', name: 'Packet radio 144.390' })] },
    });
    const opened: string[] = [];
    renderPiece(<HeardLog head={null} openPacket={(id) => opened.push(id)} />);
    return { asked, opened };
  };
  const queries = (asked: { path: string }[]) =>
    asked
      .filter(({ path }) => path.startsWith('/api/v1/packets'))
      .map(({ path }) => new URLSearchParams(path.split('?')[1]));

  it('lists packets with their copies counted, and opens one', async () => {
    const { opened } = open([summary({ copies: [...summary().copies, ...summary().copies] })]);
    await userEvent.click(await screen.findByRole('link', { name: /QT3PC-9.*heard via QT0TH-3, and 1 more copy/ }));
    expect(opened).toEqual(['7']);
    expect(copiesWords(summary({ copies: [] }))).toBe('');
  });
  it('tells speeds in the chosen unit, and local time where that is wished', async () => {
    usePreferences.getState().prefer({ distanceUnit: 'mi', localTimes: true });
    const offset = jest.spyOn(Date.prototype, 'getTimezoneOffset').mockReturnValue(-60);
    open([summary()]);
    // 20 knots are 23.02 miles an hour, by definition of both miles.
    expect(await screen.findByText(/– 251° at 23 mph – Returning$/)).toBeTruthy();
    expect(screen.getByText(/Z \(\d\d:\d\d\)$/)).toBeTruthy();
    offset.mockRestore();
    usePreferences.getState().prefer({ distanceUnit: 'km', localTimes: false });
  });
  it('asks the station for each filter, also for the kinds that are rare', async () => {
    const { asked } = open([summary()]);
    await userEvent.click(await screen.findByRole('button', { name: 'More filters' }));
    await userEvent.click(screen.getByRole('radio', { name: 'Telemetry definitions' }));
    await userEvent.click(await screen.findByRole('radio', { name: 'Packet radio 144.390' }));
    await enter('Station', 'qt3pc-9');
    await enter('Search', 'patrol');
    await waitFor(() => {
      const last = queries(asked).at(-1)!;
      expect(Object.fromEntries(last)).toMatchObject({
        kind: 'telemetry definition',
        bearerId: 'radio',
        station: 'QT3PC-9',
        text: 'patrol',
      });
    });
  });
  it('asks for a span of time as it is typed, and says what is none', async () => {
    const { asked } = open([summary()]);
    await userEvent.click(await screen.findByRole('button', { name: 'More filters' }));
    await enter('Heard from, UTC', 'noon');
    expect(screen.getByRole('textbox', { name: 'Heard from, UTC' })).toHaveAttribute('aria-invalid', 'true');
    await enter('Heard from, UTC', '2026-11-24 12:00');
    await enter('Heard until, UTC', '2026-11-24');
    await waitFor(() =>
      expect(Object.fromEntries(queries(asked).at(-1)!)).toMatchObject({
        from: '2026-11-24T12:00:00.000Z',
        to: '2026-11-24T23:59:59.999Z',
      }),
    );
  });
  it('pages on by the key that the station gave', async () => {
    const { asked } = open([summary()], '1795600000000:7');
    await userEvent.click(await screen.findByRole('button', { name: 'Show older' }));
    await waitFor(() => expect(queries(asked).at(-1)!.get('before')).toBe('1795600000000:7'));
  });
  it('teaches when nothing was heard', async () => {
    open([]);
    expect(await screen.findByText('Nothing heard yet')).toBeTruthy();
  });
});

describe('a packet', () => {
  const detail: PacketDetail = {
    ...summary(),
    copies: summary().copies.map((copy) => ({
      ...copy,
      statements: [
        {
          words: 'QT0TH-3 passed it on.',
          certain: true,
          facts: [{ from: 'packet', words: 'QT0TH-3 is marked as used' }],
        },
        {
          words: 'QT0TH-3 heard QT3PC-9.',
          certain: false,
          facts: [{ from: 'supposition', words: 'no digipeater that leaves its call out stood between' }],
        },
      ],
    })),
    rawHex: '60285f666e224f6a2f',
    form: 'ax25',
    fields: [
      { name: 'Type', words: 'position, Mic-E', from: 0, to: 1 },
      { name: 'Longitude', words: '112° 7.74′ W', from: 1, to: 4 },
      { name: 'No number', words: 'no acknowledgement is asked for', from: 9, to: 9 },
    ],
  };
  it('is shown field by field with its octets, and as received', async () => {
    stationAnswers({
      'GET /api/v1/packets/7': { body: detail },
      'GET /api/v1/bearers': { body: [boardLink({ id: 'radio', name: 'Packet radio 144.390' })] },
    });
    renderPiece(<PacketPanel id="7" />);
    const octets = await screen.findByLabelText('octets 1 to 3');
    expect(octets.textContent).toBe('1–3');
    expect(within(octets.parentElement!).getByText('112° 7.74′ W')).toBeTruthy();
    expect(screen.getByText('Heard once')).toBeTruthy();
    expect(await screen.findByText('Packet radio 144.390')).toBeTruthy();
    const said = within(screen.getByRole('list', { name: 'What the path says: heard via QT0TH-3' }));
    expect(said.getAllByRole('listitem').map(({ textContent }) => textContent)).toEqual([
      expect.stringContaining('Certain: QT0TH-3 passed it on.'),
      expect.stringContaining('Inferred: QT0TH-3 heard QT3PC-9.'),
    ]);
    await userEvent.click(screen.getByRole('button', { name: /^What does it rest on\?/ }));
    expect(said.getByText('because QT0TH-3 is marked as used')).toBeTruthy();
    expect(said.getByText('supposing that no digipeater that leaves its call out stood between')).toBeTruthy();
    expect(screen.getByText('60 28 5f 66 6e 22 4f 6a')).toBeTruthy();
    expect(octetRows(detail.rawHex)).toEqual([
      { offset: '000', hex: '60 28 5f 66 6e 22 4f 6a', text: '`(_fn"Oj' },
      { offset: '008', hex: '2f', text: '/' },
    ]);
  });
  it('that cannot be loaded says so, and is tried again', async () => {
    const asked = stationAnswers({ 'GET /api/v1/bearers': { body: [] } });
    renderPiece(<PacketPanel id="7" />);
    await userEvent.click(await screen.findByRole('button', { name: 'Try again' }));
    await waitFor(() => expect(asked.filter(({ path }) => path.endsWith('/packets/7')).length).toBeGreaterThan(1));
  });
});

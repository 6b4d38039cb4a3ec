import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { BeaconNow, BeaconPlan, StationDetail } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { AT, heardStation, modemLink, openSettings } from '../../../testing/samples';
import { BeaconPlace } from './beacon-place';
import { TrackPicture } from './track-picture';
import { PROPOSED, readPlan, schemeWords, writtenOf } from './written-plan';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));
// The worker's own code, told of one after the other as a worker does; a test in a browser has the true one.
const mockWorkers: { ended: boolean }[] = [];
let mockBroken = false;
jest.mock('./comparison-worker', () => ({
  comparisonWorker: () => {
    if (mockBroken) throw new Error('no workers');
    const { compared } = jest.requireActual<typeof import('./compared')>('./compared');
    const worker = {
      ended: false,
      onmessage: null as ((mockEvent: { data: unknown }) => void) | null,
      postMessage(asked: never) {
        const left = compared(asked);
        const next = () => {
          const one = left.next();
          if (worker.ended || one.done) return;
          worker.onmessage?.({ data: one.value });
          setTimeout(next);
        };
        setTimeout(next);
      },
      terminate: () => void (worker.ended = true),
    };
    mockWorkers.push(worker);
    return worker;
  },
}));

const PLAN: BeaconPlan = {
  scheme: { by: 'error', withinM: 250, leastS: 60, mostS: 1800 },
  bearerId: 'radio',
  path: ['WIDE1-1', 'WIDE2-1'],
  far: null,
  ambiguity: 0,
  comment: '',
};
const NOTHING: BeaconNow = { plan: null, stopped: null, lastAt: null, nextBy: null };
const settings = { ...openSettings, position: { latitude: 41.269, longitude: -43.285 } };
/** A truck that drove east for an hour, a point every two minutes, and then turned round. */
const truck: StationDetail = heardStation({
  call: 'QT3TK-14',
  kind: 'station',
  speedKnots: 20,
  trail: Array.from({ length: 31 }, (_, n) => ({
    at: new Date(Date.parse(AT) + n * 120_000).toISOString(),
    latitude: 41.2,
    longitude: -43.4 + 0.01 * Math.min(n, 30 - n),
    courseDeg: null,
    speedKnots: 20,
    altitudeM: null,
    fault: null,
  })),
});
const answers = (beacon: BeaconNow = NOTHING, more: Record<string, { status?: number; body: unknown }> = {}) =>
  stationAnswers({
    'GET /api/v1/settings': { body: settings },
    'GET /api/v1/bearers': { body: [modemLink()] },
    'GET /api/v1/beacon': { body: beacon },
    'GET /api/v1/stations': { body: [truck] },
    'GET /api/v1/stations/QT3TK-14': { body: truck },
    'GET /api/v1/transmissions': { body: { rows: [], next: null } },
    'PATCH /api/v1/settings': { body: settings },
    ...more,
  });

describe('a plan as it is written', () => {
  const way = { bearerId: 'radio', path: ['WIDE1-1', 'WIDE2-1'] };
  it('comes out as it went in', () => {
    for (const scheme of [
      PLAN.scheme,
      { by: 'time', everyS: 90 } as const,
      { by: 'distance', everyM: 500, leastS: 60, mostS: 600 } as const,
    ])
      expect(readPlan(writtenOf({ ...PLAN, scheme }), way)).toEqual({ plan: { ...PLAN, scheme } });
    const far = { ...PLAN, far: { path: ['WIDE2-2'], everyNth: 4 }, ambiguity: 2 as const };
    expect(readPlan(writtenOf(far), { ...way, ambiguity: 2 })).toEqual({ plan: far });
    expect(writtenOf(null)).toBe(PROPOSED);
  });

  it('has each complaint at its field', () => {
    expect(readPlan({ ...PROPOSED, by: 'time', everyMin: '0,1' }, way)).toMatchObject({
      faults: { everyMin: '30 s or more' },
    });
    expect(readPlan({ ...PROPOSED, leastS: '600', mostMin: '1' }, way)).toMatchObject({
      faults: { mostMin: 'the least interval is longer than the greatest' },
    });
    expect(readPlan({ ...PROPOSED, farPath: 'wide2-2', farNth: '1' }, way)).toMatchObject({
      faults: { farNth: expect.any(String) },
    });
    expect(readPlan({ ...PROPOSED, farPath: 'TOO-LONG-AN-ELEMENT' }, way)).toMatchObject({
      faults: { farPath: expect.any(String) },
    });
    expect(readPlan({ ...PROPOSED, withinM: 'far', comment: 'x'.repeat(40) }, way)).toMatchObject({
      faults: { withinM: 'metres', comment: expect.stringContaining('36') },
    });
  });

  it('is said in words', () =>
    expect([PLAN.scheme, { by: 'time', everyS: 30 } as const].map(schemeWords)).toEqual([
      'when others are off by 250 m, 60 s to 30 min',
      'every 30 s',
    ]));
});

describe('the beacon', () => {
  it('shows what a plan costs and what others would see, warns of a test-bench interval, and is started as written', async () => {
    const asked = answers();
    renderPiece(<BeaconPlace />);
    expect(await screen.findByRole('heading', { name: 'Our position does not go out by itself' })).toBeInTheDocument();
    const list = await screen.findByRole('list', { name: 'Schemes compared' });
    await waitFor(() => expect(within(list).getAllByRole('listitem')).toHaveLength(4));
    const rows = within(list).getAllByRole('listitem');
    const sent = rows.map((row) => Number(/(\d+) reports/.exec(row.textContent ?? '')![1]));
    expect(rows[0]).toHaveTextContent(/^This plan: when others are off by 250 m/);
    // Straight on and one turn: the fixed interval of half a minute sends many times as much.
    expect(sent[0]).toBeLessThan(10);
    expect(sent[1]).toBeGreaterThan(100);
    expect(
      screen.getByText(/^2\.0 to 60 reports an hour, .* and once more for each of up to 2 hops: /),
    ).toBeInTheDocument();
    await userEvent.click(screen.getByRole('radio', { name: 'WIDE2-2' }));
    expect(screen.getByText(/once more for each of up to 2 hops: /)).toBeInTheDocument();
    await userEvent.click(screen.getByRole('radio', { name: 'WIDE1-1,WIDE2-1' }));
    await userEvent.click(screen.getByRole('radio', { name: 'After so much time' }));
    const every = screen.getByRole('textbox', { name: 'Every, min' });
    await userEvent.clear(every);
    await userEvent.type(every, '0.5');
    expect(screen.getByText(/^Every 30 s is for a test bench/)).toBeInTheDocument();
    await userEvent.clear(every);
    await userEvent.click(screen.getByRole('button', { name: 'Send by this plan' }));
    expect(asked.some(({ method }) => method === 'PATCH')).toBe(false);
    await userEvent.type(every, '30');
    await userEvent.click(screen.getByRole('button', { name: 'Send by this plan' }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({
        beacon: { ...PLAN, scheme: { by: 'time', everyS: 1800 } },
      }),
    );
  });

  it('compares beside the page, and ends what is no longer asked', async () => {
    answers();
    renderPiece(<BeaconPlace />);
    expect(await screen.findByText(/^From above, north at the top/)).toBeInTheDocument();
    const before = mockWorkers.length;
    const within1 = screen.getByRole('textbox', { name: 'Off by so many metres' });
    await userEvent.clear(within1);
    await userEvent.type(within1, '100');
    await waitFor(() => expect(mockWorkers.length).toBeGreaterThan(before));
    expect(mockWorkers.slice(0, -1).every(({ ended }) => ended)).toBe(true);
    // What has no bearing on it begins nothing anew.
    const sofar = mockWorkers.length;
    await userEvent.type(screen.getByRole('textbox', { name: 'Comment' }), 'Convoy of three to the north end');
    expect(mockWorkers).toHaveLength(sofar);
    expect(
      screen.getByText(/Some digital-voice gateways pass the first 27 alone: “Convoy of three to the nort”$/),
    ).toBeInTheDocument();
  });

  it('draws all of the way, and a dot for each report', () => {
    const seen = {
      way: [
        { east: 0, north: 0 },
        { east: 5000, north: 0 },
      ],
      believed: [
        { from: { east: 0, north: 0 }, to: { east: 0, north: 0 } },
        { from: { east: 2500, north: 0 }, to: { east: 7500, north: -100 } },
      ],
    };
    renderPiece(<TrackPicture seen={seen} width={300} title="The track" />);
    const picture = screen.getByRole('img', { name: 'The track' });
    expect(picture.querySelectorAll('circle')).toHaveLength(2);
    const x = (name: string) => [...picture.querySelectorAll('line')].map((line) => Number(line.getAttribute(name)));
    // What others believe runs farther than the way did: it is not cut off either.
    expect(Math.max(...x('x2'))).toBeCloseTo(288, 0);
    expect(picture.querySelector('path')!.getAttribute('d')).not.toMatch(/NaN|Infinity/);
  });

  it('says when it cannot be compared, and lets the plan be started all the same', async () => {
    mockBroken = true;
    try {
      answers();
      renderPiece(<BeaconPlace />);
      expect(await screen.findByText('this browser starts no worker for it')).toBeInTheDocument();
      expect(screen.getByRole('button', { name: 'Send by this plan' })).toBeEnabled();
    } finally {
      mockBroken = false;
    }
  });

  it('says why a plan waits, and is stopped with one press', async () => {
    const asked = answers({ plan: PLAN, stopped: 'Everything is held.', lastAt: AT, nextBy: null });
    renderPiece(<BeaconPlace />);
    expect(await screen.findByRole('heading', { name: 'The plan waits' })).toBeInTheDocument();
    expect(screen.getByText('Everything is held.')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Stop the beacon' }));
    await waitFor(() => expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({ beacon: null }));
  });

  it('asks for a modem first', async () => {
    answers(NOTHING, { 'GET /api/v1/bearers': { body: [] } });
    renderPiece(<BeaconPlace />);
    expect(await screen.findByText('No modem')).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: /by this plan$/ })).toBeNull();
  });
});

describe('our status', () => {
  const says = { ...settings, statusText: 'Net on the hour', voiceMHz: 146.52 };
  const changes = (asked: ReturnType<typeof answers>) =>
    asked.filter(({ method }) => method === 'PATCH').map(({ body }) => body);
  it('is planned as it is written, and stopped at one press', async () => {
    const asked = answers(NOTHING, {
      'GET /api/v1/settings': { body: { ...says, statusPlan: { bearerId: 'radio', path: [], everyMin: 30 } } },
    });
    renderPiece(<BeaconPlace />);
    expect(await screen.findByText('146.520MHz Net on the hour')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Change the plan of the status' }));
    const every = screen.getByLabelText('Every, min');
    await userEvent.clear(every);
    await userEvent.type(every, '1');
    await userEvent.click(screen.getByRole('button', { name: 'Keep the plan of the status' }));
    expect(screen.getByText('5 min or more')).toBeInTheDocument();
    expect(changes(asked)).toEqual([]);
    await userEvent.type(every, '5');
    await userEvent.click(screen.getByRole('button', { name: 'Keep the plan of the status' }));
    await waitFor(() =>
      expect(changes(asked)).toEqual([{ statusPlan: { bearerId: 'radio', path: [], everyMin: 15 } }]),
    );
    await userEvent.click(screen.getByRole('button', { name: 'Stop the status' }));
    await waitFor(() => expect(changes(asked)[1]).toEqual({ statusPlan: null }));
  });
});

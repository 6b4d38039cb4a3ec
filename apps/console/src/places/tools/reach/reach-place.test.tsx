import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { heardStation, meshLink, modemLink, openSettings } from '../../../testing/samples';
import { ReachPlace } from './reach-place';

const points = (heightM: (n: number) => number | null) =>
  Array.from({ length: 101 }, (_, n) => ({ distanceKm: (12 * n) / 100, groundM: heightM(n) }));
const open = (ground: (n: number) => number | null, missing: string[] = [], position = true) => {
  const asked = stationAnswers({
    'GET /api/v1/settings': {
      body: { ...openSettings, position: position ? { latitude: 41.2, longitude: -43.42 } : null },
    },
    'GET /api/v1/stations': {
      body: [
        heardStation({ call: 'QT0TH-3', latitude: 41.3, longitude: -43.3 }),
        heardStation({ call: 'QT9XX', latitude: null, longitude: null }),
      ],
    },
    'GET /api/v1/bearers': { body: [modemLink(), meshLink()] },
    'GET /api/v1/reach/measured': { body: { placed: true, stations: [], factor: null } },
    'GET /api/v1/reach/profile': { body: { points: points(ground), missing } },
  });
  renderPiece(<ReachPlace />);
  return asked;
};
const enter = async (name: string, text: string) => {
  const field = await screen.findByRole('textbox', { name });
  await userEvent.clear(field);
  await userEvent.paste(text);
};
const verdicts = () =>
  within(screen.getByRole('list', { name: 'What the link bears' }))
    .getAllByRole('listitem')
    .map((line) => line.textContent);

describe('reach', () => {
  it('is reckoned from here to a station that was heard, as its fields are typed', async () => {
    const asked = open(() => 0);
    await userEvent.click(await screen.findByRole('button', { name: 'To QT0TH-3' }));
    expect(await screen.findByText('From this station to QT0TH-3')).toBeInTheDocument();
    const query = new URLSearchParams(asked.find(({ path }) => path.includes('/reach/profile'))!.path.split('?')[1]);
    expect([query.get('from'), query.get('to')]).toEqual(['41.2,-43.42', '41.3,-43.3']);
    expect(screen.queryByRole('button', { name: 'To QT9XX' })).toBeNull();
    const before = verdicts();
    expect(before[0]).toMatch(/^1200 baud, two tones on FM.*of 100 frames$/);
    await enter('Far end: Power, W', '0.005');
    expect(verdicts()).not.toEqual(before);
    // What cannot be is said at its field, and nothing is reckoned from it.
    await enter('Far end: Power, W', 'much');
    expect(await screen.findByText('a number from 0.001 to 2000')).toBeInTheDocument();
    expect(screen.queryByRole('list', { name: 'What the link bears' })).toBeNull();
  });

  it('tells a hill in the way, and what a mesh bears', async () => {
    open((n) => (n === 50 ? 400 : 10));
    await userEvent.click(await screen.findByRole('button', { name: 'To QT0TH-3' }));
    expect(
      await screen.findByText(/^The ground stands .* above the straight line 6\.0 km from the start/),
    ).toBeInTheDocument();
    await userEvent.click(screen.getByRole('radio', { name: 'Mesh' }));
    expect(verdicts()).toHaveLength(6);
    expect(verdicts()[5]).toMatch(/^spreading factor 12/);
  });

  it('says what is not known: the tile that is wanting, where this station is, who was not heard', async () => {
    open(() => null, ['N41W044'], false);
    expect(await screen.findByText(/^where this station is, is not known/)).toBeInTheDocument();
    await enter('From', '41.2 -43.4');
    await enter('To', 'QT9XX');
    expect(await screen.findByText('QT9XX has not told where it is')).toBeInTheDocument();
    await enter('To', '41.3 -43.3');
    expect(await screen.findByText(/N41W044\.hgt/)).toBeInTheDocument();
    expect(screen.getByText(/^No elevation is known here/)).toBeInTheDocument();
  });
});

import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Tracker, TrackersNow } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { AT, openSettings } from '../../../testing/samples';
import { TrackersPlace } from './trackers-place';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const BOAT: Tracker = {
  unit: 'SAT-0417',
  name: 'SAT-0417',
  symbol: '/[',
  showBattery: false,
  bridged: false,
  latitude: 41.1,
  longitude: -43.5,
  at: AT,
  batteryPercent: 83,
  emergency: false,
  stale: false,
};
const answers = (now: Partial<TrackersNow>) =>
  stationAnswers({
    'GET /api/v1/trackers': { body: { feed: null, askedAt: null, fault: null, units: [], ...now } },
    'PATCH /api/v1/settings': { body: openSettings },
    'PUT /api/v1/trackers/SAT-0417': { body: { feed: null, askedAt: null, fault: null, units: [] } },
  });
const changes = (asked: ReturnType<typeof answers>) => asked.filter(({ method }) => method !== 'GET');

describe('trackers from elsewhere', () => {
  it('are asked of the feed that was entered, and of nothing that is none', async () => {
    const asked = answers({});
    renderPiece(<TrackersPlace />);
    await userEvent.type(await screen.findByLabelText('Address of the feed'), 'feed.example/units');
    await userEvent.click(screen.getByRole('button', { name: 'Ask this feed' }));
    expect(screen.getByText('an address that begins with http:// or https://')).toBeInTheDocument();
    expect(changes(asked)).toEqual([]);
    await userEvent.clear(screen.getByLabelText('Address of the feed'));
    await userEvent.type(screen.getByLabelText('Address of the feed'), 'https://feed.example/units');
    await userEvent.click(screen.getByRole('button', { name: 'Ask this feed' }));
    await waitFor(() =>
      expect(changes(asked)[0]!.body).toEqual({ trackerFeed: { url: 'https://feed.example/units', everyS: 60 } }),
    );
  });

  it('are named and put on the air, with what others will read', async () => {
    const asked = answers({ feed: { url: 'https://feed.example/', everyS: 60 }, askedAt: AT, units: [BOAT] });
    renderPiece(<TrackersPlace />);
    expect(await screen.findByText(/shown here alone$/)).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Name it, or put it on the air: SAT-0417' }));
    await userEvent.clear(screen.getByLabelText('Name on the map'));
    await userEvent.type(screen.getByLabelText('Name on the map'), 'QT4LB-12');
    await userEvent.click(screen.getByRole('checkbox', { name: 'On the air, as an object of ours' }));
    expect(screen.getByText('tracker SAT-0417 0800z')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('checkbox', { name: 'Others may see how full its cell is' }));
    expect(screen.getByText('tracker SAT-0417 0800z cell 83%')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Keep it so' }));
    await waitFor(() =>
      expect(changes(asked)[0]!.body).toEqual({ name: 'QT4LB-12', symbol: '/[', showBattery: true, bridged: true }),
    );
  });

  it('say what is wrong with the feed, what is too old, and who calls for help', async () => {
    answers({
      feed: { url: 'https://feed.example/', everyS: 60 },
      fault: 'the feed did not answer with JSON',
      units: [{ ...BOAT, bridged: true, stale: true, emergency: true }],
    });
    renderPiece(<TrackersPlace />);
    expect(await screen.findByText('the feed did not answer with JSON')).toBeInTheDocument();
    expect(screen.getByText(/too old to go on the air$/)).toBeInTheDocument();
    expect(screen.getByText('It calls for help')).toBeInTheDocument();
  });
});

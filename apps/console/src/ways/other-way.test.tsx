import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ItemDetail, LegView, WaysView } from '@tombolo/contract';
import { router } from 'expo-router';
import { useDrafts } from '../drafts/drafts';
import { written, writing } from '../testing/drafts';
import { renderPiece, stationAnswers } from '../testing/render';
import { arrivedItem, meshLink, modemLink } from '../testing/samples';
import { isStuck, OtherWay } from './other-way';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const modem = modemLink();
const mesh = meshLink();
const leg: LegView = {
  id: '7a81dd31-3d14-46ae-83ac-4f1c57e01574',
  role: 'convey',
  bearerId: modem.id,
  from: 'QT2AR-7',
  to: 'QT6CL',
  path: ['WIDE1-1'],
  createdAt: '2026-11-26T10:00:00.000Z',
  nextAt: null,
  held: null,
  tries: 5,
  triesMade: 5,
};
const arrived = arrivedItem();
const stuck = (more: Partial<ItemDetail> = {}): ItemDetail => ({
  ...arrived,
  direction: 'out',
  kind: 'text',
  addressee: 'QT6CL',
  body: 'Insulin comes',
  acknowledgementAsked: true,
  createdAt: '2026-11-26T10:00:00.000Z',
  legs: [leg],
  status: { ...arrived.status, rung: 'relayed', outcome: 'expired' },
  ...more,
});
const now = Date.parse('2026-11-26T10:05:00.000Z');
const spread = { chance: 0.2, low: 0.1, high: 0.4 };
const way = (title: string, send: WaysView['ways'][number]['send']): WaysView['ways'][number] => ({
  id: title,
  title,
  virtues: [],
  sentences: [`${title}: about 20 of 100 arrive.`, 'It rests on 2 receptions.'],
  arrives: spread,
  works: null,
  reckoned: null,
  proof: null,
  expectedS: 3,
  ninetyS: 9,
  airS: 1,
  hands: 0,
  strips: [{ from: 'you', to: 'QT6CL', chance: 0.2, seen: true }],
  rests: [],
  tries: { answered: 0, unanswered: 5 },
  basis: 'evidence',
  cautions: [],
  send,
});
const asTried = way('Packet radio, over one digipeater', {
  way: { by: 'packets', bearerId: modem.id, path: ['WIDE1-1'], askAcknowledgement: true },
  to: 'QT6CL',
  inParts: false,
  command: null,
});
const byMesh = way('Mesh, to node VLCLIN', {
  way: { by: 'texts', bearerId: mesh.id, channel: 'Sound' },
  to: '01D1-0006',
  inParts: false,
  command: null,
});
const shown = (ways: WaysView['ways'], item = stuck()) => {
  stationAnswers({
    'GET /api/v1/bearers': { body: [modem, mesh] },
    'POST /api/v1/ways': { body: { at: item.createdAt, person: null, ways, excluded: [], cut: false, askFirst: null } },
  });
  renderPiece(<OtherWay item={item} />);
};

describe('a text that is stuck', () => {
  it('is one that ended without having arrived, or that nobody answers', () => {
    const status = stuck().status;
    expect(isStuck(stuck(), now)).toBe(true);
    const silent = stuck({ status: { ...status, rung: 'sent', outcome: null } });
    expect(isStuck(silent, now)).toBe(true);
    // Not at once, not after one try, not when it arrived or was given up, and not one of others.
    expect(isStuck(silent, Date.parse(silent.createdAt) + 60_000)).toBe(false);
    expect(isStuck({ ...silent, legs: [{ ...leg, triesMade: 1 }] }, now)).toBe(false);
    expect(isStuck(stuck({ status: { ...status, rung: 'delivered', outcome: null } }), now)).toBe(false);
    expect(isStuck(stuck({ status: { ...status, outcome: 'cancelled' } }), now)).toBe(false);
    expect(isStuck(stuck({ direction: 'in' }), now)).toBe(false);
  });

  it('is proposed the surest way that was not tried, beside what became of the one that was', async () => {
    writing({ addressee: 'QT1NC', body: 'Something else' });
    const before = useDrafts.getState().open;
    shown([asTried, byMesh]);
    const region = await screen.findByRole('region', { name: 'Another way' });
    expect(await within(region).findByText('Mesh, to node VLCLIN')).toBeVisible();
    expect(region).toHaveTextContent('As it was tried: Packet radio, over one digipeater: about 20 of 100 arrive.');
    await userEvent.click(within(region).getByRole('button', { name: 'Write it again for this way' }));
    // A draft of its own: nothing that was being written is touched, and nothing is sent.
    expect(written()).toMatchObject({ way: 'mesh', addressee: '01D1-0006', body: 'Insulin comes' });
    expect(useDrafts.getState().drafts[before]).toMatchObject({ body: 'Something else' });
    expect(router.navigate).toHaveBeenCalledWith('/write');
  });

  it('says that both may arrive while the first is tried, and when there is no other', async () => {
    const status = stuck().status;
    shown([byMesh], stuck({ status: { ...status, rung: 'sent', outcome: null } }));
    expect(await screen.findByText('The first is still being tried: both may arrive.')).toBeVisible();
  });

  it('has none where none is known', async () => {
    shown([asTried]);
    expect(await screen.findByText(/^No other way is known\./)).toBeVisible();
    expect(screen.queryByRole('button', { name: /Write it again/ })).toBeNull();
  });
});

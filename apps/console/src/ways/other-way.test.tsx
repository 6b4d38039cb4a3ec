import { act, cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ItemDetail, LegView, WaysView } from '@tombolo/contract';
import { router } from 'expo-router';
import { useDrafts } from '../drafts/drafts';
import { written, writing } from '../testing/drafts';
import { renderPiece, stationAnswers } from '../testing/render';
import { arrivedItem, meshLink, modemLink } from '../testing/samples';
import { isStuck, OtherWay, wantsSecond } from './other-way';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const modem = modemLink();
const mesh = meshLink();
const other = { ...modem, id: 'other', name: 'Second modem' };
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
  afterFirst: null,
  works: null,
  answer: null,
  reckoned: null,
  theirs: null,
  proof: null,
  expectedS: 3,
  ninetyS: 9,
  airS: 1,
  hands: 0,
  strips: [{ from: 'you', to: 'QT6CL', chance: 0.2, seen: true }],
  rests: [],
  tries: { answered: 0, unanswered: 5, inSilence: 0 },
  basis: 'evidence',
  cautions: [],
  send,
});
const asTried = way('Packet radio, over one digipeater', {
  way: { by: 'packets', bearerId: modem.id, path: ['WIDE1-1'], askAcknowledgement: true },
  to: 'QT6CL',
  inParts: false,
  command: null,
  broughtBy: null,
});
const byMesh = way('Mesh, to node VLCLIN', {
  way: { by: 'texts', bearerId: mesh.id, channel: 'Sound' },
  to: '01D1-0006',
  inParts: false,
  command: null,
  broughtBy: null,
});
const shown = (ways: WaysView['ways'], item = stuck(), items: readonly Partial<ItemDetail>[] = []) => {
  const details = items.map((more) => arrivedItem(more));
  const asked = stationAnswers({
    'GET /api/v1/items': { body: { rows: details, next: null } },
    ...Object.fromEntries(details.map((one) => [`GET /api/v1/items/${one.id}`, { body: one }])),
    'GET /api/v1/bearers': { body: [modem, mesh, other] },
    'POST /api/v1/ways': { body: { at: item.createdAt, person: null, ways, excluded: [], cut: false, askFirst: null } },
  });
  renderPiece(<OtherWay item={item} />);
  return asked;
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
    expect(router.navigate).toHaveBeenCalledWith(`/write?draft=${useDrafts.getState().open}`);
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

describe('a text that is urgent', () => {
  const status = { ...stuck().status, rung: 'sent' as const, outcome: null };
  const legs = [{ ...leg, triesMade: 1 }];
  const urgent = (more: Partial<ItemDetail> = {}) => stuck({ precedence: 'priority', status, legs, ...more });
  const recent = new Date().toISOString();

  it('wants a second way until somebody has it', () => {
    expect(wantsSecond(urgent())).toBe(true);
    expect(wantsSecond(urgent({ precedence: 'emergency', status: { ...status, rung: 'relayed' } }))).toBe(true);
    expect(wantsSecond(urgent({ precedence: 'routine' }))).toBe(false);
    expect(wantsSecond(urgent({ status: { ...status, rung: 'accepted' } }))).toBe(false);
    expect(wantsSecond(urgent({ status: { ...status, rung: 'delivered' } }))).toBe(false);
    expect(wantsSecond(urgent({ status: { ...status, outcome: 'cancelled' } }))).toBe(false);
    expect(wantsSecond(urgent({ direction: 'in' }))).toBe(false);
  });

  it('is offered one at once that shares nothing with the first, with the chance of both', async () => {
    const otherPath = way('Packet radio, direct', {
      ...asTried.send,
      way: { by: 'packets', bearerId: modem.id, path: [], askAcknowledgement: true },
    });
    shown([otherPath, asTried, byMesh], urgent({ createdAt: recent }));
    const region = await screen.findByRole('region', { name: 'A second way at once' });
    expect(await within(region).findByText('Mesh, to node VLCLIN')).toBeVisible();
    // 1 − 0.8 · 0.8
    expect(region).toHaveTextContent('at most about 36 of 100 arrive by one or the other');
    expect(region).toHaveTextContent('both may arrive');
    await userEvent.click(within(region).getByRole('button', { name: 'Write it again for this way' }));
    expect(written()).toMatchObject({ way: 'mesh', body: 'Insulin comes', precedence: 'priority' });
  });

  it('is not offered once more what was written again, unless that was cancelled', async () => {
    const item = urgent({ createdAt: recent });
    const again = {
      id: '5d81dd31-3d14-46ae-83ac-4f1c57e01574',
      direction: 'out' as const,
      // By its name: how it went tells its transmission.
      addressee: 'VLCLIN',
      body: item.body,
      legs: [{ ...leg, bearerId: mesh.id, to: '01D1-0006', path: [] }],
      createdAt: new Date(Date.parse(recent) + 5000).toISOString(),
    };
    shown([asTried, byMesh], item, [again]);
    expect(await screen.findByRole('link', { name: /^Written again this way at / })).toHaveAttribute(
      'href',
      `/traffic/${again.id}`,
    );
    expect(screen.queryByRole('button', { name: /Write it again/ })).toBeNull();
    cleanup();
    const cancelled = { ...again, status: { ...status, outcome: 'cancelled' as const } };
    const before = { ...again, createdAt: new Date(Date.parse(recent) - 5000).toISOString() };
    const another = { ...again, body: 'Something else' };
    const byAnotherModem = { ...again, legs: [{ ...leg, bearerId: other.id }] };
    const toSomebodyElse = { ...again, legs: [{ ...leg, bearerId: mesh.id, to: 'LSFARM', path: [] }] };
    const each = [cancelled, before, another, byAnotherModem, toSomebodyElse];
    shown(
      [asTried, byMesh],
      item,
      each.map((one, n) => ({ ...one, id: again.id.replace('5d81', `5d8${n}`) })),
    );
    expect(await screen.findByRole('button', { name: /Write it again/ })).toBeVisible();
  });

  it('is offered nothing where all else may be repeated by the same stations, or waits for somebody', async () => {
    const secondModem = way('Packet radio, another modem', {
      ...asTried.send,
      way: { by: 'packets', bearerId: other.id, path: ['WIDE1-1'], askAcknowledgement: true },
    });
    const byMail = way('Mail', { ...asTried.send, way: { by: 'mail', bearerId: 'mail' }, to: 'a@b.example' });
    const asked = shown([asTried, secondModem, byMail], urgent({ createdAt: recent }));
    await waitFor(() => expect(asked.filter(({ path }) => /ways|bearers/.test(path))).toHaveLength(2));
    await act(async () => undefined);
    expect(screen.queryByRole('region')).toBeNull();
  });
});

import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPiece, stationAnswers } from '../../testing/render';
import { arrivedItem, boardLink } from '../../testing/samples';
import { writing, written } from '../../testing/drafts';
import { evidenceWords } from './evidence-list';
import { actionsFor, ItemPanel } from './item-panel';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const mailLink = boardLink({
  id: 'mail',
  name: 'Radio mail',
  config: {
    kind: 'radio-mail',
    over: 'radio',
    call: 'QT1RM-12',
    path: [],
    address: 'qt2ar@sound.example',
    user: 'q',
    password: '',
  },
});

describe('an item', () => {
  it('that is a mail shows all of it, who held it, and is answered by mail', async () => {
    const item = arrivedItem();
    stationAnswers({ [`GET /api/v1/items/${item.id}`]: { body: item }, 'GET /api/v1/bearers': { body: [mailLink] } });
    renderPiece(<ItemPanel id={item.id} openPacket={() => undefined} />);
    expect(await screen.findByRole('heading', { name: 'From office@ferry.example', level: 1 })).toBeInTheDocument();
    expect(screen.getByRole('heading', { name: 'Re: List' })).toBeInTheDocument();
    expect(screen.getByText('Copy to harbour@ferry.example')).toBeInTheDocument();
    expect(screen.getByRole('button', { name: 'Save list.csv, 13 octets' })).toBeInTheDocument();
    expect(screen.getByRole('button', { name: 'Save as message file' })).toBeInTheDocument();
    expect(screen.getByText('Received from QT1RM-12')).toBeInTheDocument();
    expect(await screen.findByText('by QT2AR-7 · Radio mail · fetched')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Answer office@ferry.example' }));
    expect(written()).toMatchObject({ way: 'mail', addressee: 'office@ferry.example', answers: item.id });
  });

  it('that came through a service is answered through it, to whom it came from in the end', async () => {
    writing();
    const values = { to: '005550142', text: 'When?' };
    const question = {
      id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c99',
      addressee: 'TELTXT',
      body: '005550142: When?',
      command: { address: 'TELTXT', command: 'text', values },
    };
    const item = arrivedItem({ kind: 'text', sender: 'TELTXT', question, person: 'Ferry Office' });
    stationAnswers({ [`GET /api/v1/items/${item.id}`]: { body: item }, 'GET /api/v1/bearers': { body: [mailLink] } });
    renderPiece(<ItemPanel id={item.id} openPacket={() => undefined} />);
    await userEvent.click(await screen.findByRole('button', { name: 'Answer Ferry Office' }));
    expect(written()).toMatchObject({
      way: 'service',
      addressee: 'TELTXT',
      command: 'text',
      values: { to: '005550142' },
      body: '',
      answers: item.id,
    });
  });

  it('that cannot be loaded says why and offers to try again', async () => {
    stationAnswers({});
    renderPiece(<ItemPanel id="x" openPacket={() => undefined} />);
    expect(await screen.findByRole('alert')).toHaveTextContent('The station does not answer');
    expect(screen.getByRole('button', { name: 'Try again' })).toBeInTheDocument();
  });

  it('offers what can be done with it now', () => {
    const leg = {
      id: 'l',
      role: 'convey' as const,
      bearerId: 'x',
      from: 'a',
      to: 'b',
      path: [],
      createdAt: '',
      nextAt: null,
      held: null,
      tries: 1,
      triesMade: 1,
    };
    const out = arrivedItem({ direction: 'out', legs: [leg], status: { ...arrivedItem().status, rung: 'sent' } });
    expect(actionsFor(out)).toEqual(['retry', 'file']);
    expect(actionsFor({ ...out, legs: [{ ...leg, nextAt: '2026-11-25T08:00:00.000Z' }] })).toEqual(['cancel', 'file']);
    expect(
      actionsFor({ ...out, filedAt: '2026-11-25T08:00:00.000Z', status: { ...out.status, rung: 'answered' } }),
    ).toEqual(['unfile']);
    // What a restored backup holds waits for a word of the operator.
    expect(actionsFor({ ...out, legs: [{ ...leg, nextAt: '2026-11-25T08:00:00.000Z', held: 'restored' }] })).toEqual([
      'release',
      'cancel',
      'file',
    ]);
    expect(actionsFor(arrivedItem())).toEqual(['file']);
    // An arrived item that was handed on is tried again like one of ours.
    const passed = { id: '2', what: 'passed' as const, other: 'TELTXT', at: '', by: 'x', bearer: null, note: null };
    expect(
      actionsFor(arrivedItem({ custody: [passed], legs: [leg], status: { ...out.status, rung: 'relayed' } })),
    ).toEqual(['retry', 'file']);
  });

  it('puts each record into words', () => {
    const [record] = arrivedItem().evidence;
    const words = (kind: string, arrived = false) =>
      evidenceWords({ ...record!, kind: kind as 'sent', attempt: 2 }, arrived);
    expect(words('sent')).toBe('Try 2: sent');
    expect(words('delivered')).toBe('QT1RM-12 acknowledged');
    expect(words('delivered', true)).toBe('Arrived from QT1RM-12');
    expect(words('accepted')).toBe('QT1RM-12 took it');
    expect(words('handed on')).toBe('QT1RM-12 handed it on');
    expect(words('interrupted')).toBe('Try 2: interrupted');
    expect(words('refused')).toBe('QT1RM-12 refused it');
  });
});

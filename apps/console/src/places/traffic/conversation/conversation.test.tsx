import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { itemSummary, type BearerConfig, type ItemDetail } from '@tombolo/contract';
import { router } from 'expo-router';
import { useReadMarks } from '../../../live/read-marks';
import { written, writing } from '../../../testing/drafts';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { arrivedItem, modemLink, person } from '../../../testing/samples';
import { PHONE } from '../../../testing/services';
import { conversationAsText, ConversationPlace } from './conversation-place';
import { personOf, waysTo } from './ways-to';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const ferry = person('Ferry Office', { call: 'QT7FO', phone: '+00 555 0142' });
const ID = (n: number) => `0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c${String(n).padStart(2, '0')}`;
const line = (n: number, more: Partial<ItemDetail>) =>
  itemSummary.parse(arrivedItem({ id: ID(n), kind: 'text', subject: null, ...more }));
const rows = [
  line(1, { sender: 'TELTXT', body: '005550142: Tomorrow' }),
  line(2, { direction: 'out', addressee: 'QT7FO', body: 'When do you run?' }),
];
const answers = (shown: readonly unknown[] = rows) =>
  stationAnswers({
    'GET /api/v1/items': { body: { rows: shown, next: null } },
    'GET /api/v1/people': { body: [ferry] },
    'GET /api/v1/bearers': { body: [modemLink()] },
    'GET /api/v1/services': { body: [PHONE] },
  });

describe('a conversation', () => {
  it('is shown under the name of whom it is with, asked for by that name, and written on by a way', async () => {
    writing();
    useReadMarks.setState({ read: [], sinceMs: 0 });
    const asked = answers();
    renderPiece(<ConversationPlace who="005550142" />);
    expect(await screen.findByRole('heading', { name: 'With Ferry Office', level: 1 })).toBeInTheDocument();
    expect(await screen.findByText('New: 005550142: Tomorrow')).toBeInTheDocument();
    expect(asked.find(({ path }) => path.includes('/items?'))!.path).toContain('with=005550142');
    await userEvent.click(screen.getByRole('button', { name: 'Read up to here: 1 new' }));
    expect(await screen.findByText('005550142: Tomorrow')).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: /^Read up to here/ })).toBeNull();
    // It came by the service: that is offered first.
    const offered = await screen.findAllByRole('button', { name: /^Write by/ });
    expect(offered.map((button) => button.getAttribute('aria-label'))).toEqual([
      'Write by phone text: TELTXT',
      'Write by packet radio: QT7FO',
    ]);
    await userEvent.click(offered[0]!);
    expect(written()).toMatchObject({
      way: 'service',
      addressee: 'TELTXT',
      command: 'text',
      values: { to: '+00 555 0142' },
    });
    await userEvent.click(screen.getByRole('button', { name: 'Write by packet radio: QT7FO' }));
    expect(written()).toMatchObject({ way: 'radio', addressee: 'QT7FO' });
    expect(router.navigate).toHaveBeenCalledWith(expect.stringMatching(/^\/write\?draft=/));
    await userEvent.type(screen.getByRole('textbox', { name: 'Search in this' }), 'run');
    await waitFor(() => expect(asked.some(({ path }) => path.includes('text=run'))).toBe(true));
  });

  it('with a stranger says so, and that nothing passed', async () => {
    answers([]);
    renderPiece(<ConversationPlace who="QT9XX" />);
    expect(await screen.findByText('Nothing passed yet')).toBeInTheDocument();
    expect(screen.getByText('Not on the list of people: known by this address alone.')).toBeInTheDocument();
    expect(await screen.findByRole('button', { name: 'Write by packet radio: QT9XX' })).toBeInTheDocument();
  });

  it('is taken along oldest first, with what each came to', () => {
    expect(conversationAsText(rows).split('\n')).toEqual([
      expect.stringMatching(/^\d{4}-\d\d-\d\d \d\d:\d\dZ to QT7FO: When do you run\? \[.+\]$/),
      expect.stringMatching(/^\d{4}-\d\d-\d\d \d\d:\d\dZ from TELTXT: 005550142: Tomorrow \[.+\]$/),
      '',
    ]);
  });
});

describe('the ways to somebody', () => {
  it('are those of the bearers that are on, by the address that is known for each', () => {
    const bearers = [modemLink(), { ...modemLink(), id: 'off', enabled: false }];
    expect(waysTo('Ferry Office', [ferry], bearers)).toEqual([
      { way: 'radio', title: 'Packet radio', addressee: 'QT7FO' },
    ]);
    expect(waysTo('office@ferry.example', [], bearers)).toEqual([]);
    expect(waysTo('Ferry Office', [ferry], [{ ...modemLink(), enabled: false }])).toEqual([]);
    const feed: BearerConfig = { kind: 'line-feed', host: 'x', port: 1, answerOver: null };
    expect(waysTo('QT1NC', [], [{ ...modemLink(), config: feed }])).toEqual([]);
  });

  it('lead to a person by any of the addresses', () => {
    for (const who of ['ferry office', 'qt7fo', '00 5550142']) expect(personOf(who, [ferry])).toBe(ferry);
    expect(personOf('QT7FX', [ferry])).toBeUndefined();
    expect(personOf('no digits', [ferry])).toBeUndefined();
  });
});

import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { BearerConfig } from '@tombolo/contract';
import { router } from 'expo-router';
import { renderPiece, stationAnswers } from '../../testing/render';
import { arrivedItem, heardStation, modemLink, openSettings, person } from '../../testing/samples';
import { writing, written } from '../../testing/drafts';
import RadioText, { lengthWords } from './radio-text';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const navigate = router.navigate as jest.Mock;
const answers = (more: Record<string, { status?: number; body: unknown }> = {}) =>
  stationAnswers({
    'GET /api/v1/settings': { body: openSettings },
    'GET /api/v1/stations': {
      body: [
        heardStation({ call: 'QT4LB-8' }),
        heardStation({ call: 'QT4LB-9' }),
        heardStation({ call: 'QT1NC' }),
        heardStation({ call: '01D1-0005' }),
      ],
    },
    'GET /api/v1/bearers': { body: [modemLink({ tuned: { frequencyHz: 144_390_000, before: [] } })] },
    ...more,
  });
const to = () => screen.findByRole('textbox', { name: 'To' });
const text = () => screen.getByRole('textbox', { name: 'Text' });
const sendButton = () => screen.getByRole('button', { name: /QT4LB-8|^Send|^Write/ });

beforeEach(() => {
  navigate.mockClear();
  writing();
});

describe('a text by packet radio', () => {
  it('that is too long goes as several, or shorter, each shown as it goes out', async () => {
    const asked = answers({ 'POST /api/v1/items': { status: 201, body: arrivedItem({ direction: 'out' }) } });
    const long = 'Please send the generator with two people and medicine to the school at Great Skerra tomorrow';
    writing({ way: 'radio', addressee: 'QT4LB-8', body: long });
    renderPiece(<RadioText />);
    const ways = await screen.findByRole('group', { name: 'What can be done about it' });
    expect(screen.getByText(/93 of 67 characters: shorten the text or send it in parts/)).toBeInTheDocument();
    const short = 'pls send the generator w/ two ppl & meds to the school @ Great Skerra tmrw';
    expect(within(ways).getByText(short)).toBeInTheDocument();
    expect(within(ways).getByText(/74 octets instead of 93/)).toBeInTheDocument();
    const several = within(ways).getByRole('checkbox', { name: 'Send it as 2 texts' });
    expect(
      within(ways).getByText(/\d\.\d s on the air\. A part that is lost costs up to \d\.\d s more/),
    ).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: /^Send 2 texts by/ })).toBeNull();
    await userEvent.click(several);
    expect(
      within(ways)
        .getAllByRole('listitem')
        .map((row) => row.textContent),
    ).toEqual([
      expect.stringMatching(/^\(1\/2a\) Please send the generator with two people and medicine to.*octets$/),
      expect.stringMatching(/^\(2\/2a\) the school at Great Skerra tomorrow.*octets$/),
    ]);
    expect(screen.getByText(/^93 characters in 2 texts · \d\.\d\d s on the air/)).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: /^Send 2 texts by 144\.390/ }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'POST')?.body).toMatchObject({
        content: { is: 'text', body: long, inParts: true },
      }),
    );
  });

  it('with letters that not every set shows is offered in plain ones', async () => {
    answers();
    writing({ way: 'radio', addressee: 'QT4LB-8', body: 'Grüße an 雨 {5}' });
    renderPiece(<RadioText />);
    const ways = await screen.findByRole('group', { name: 'What can be done about it' });
    expect(
      within(ways).getByText(/15 octets instead of 18: ü as u, ß as ss, \{ as \(, \} as \); nothing stands for 雨\./),
    ).toBeInTheDocument();
    await userEvent.click(within(ways).getByRole('button', { name: 'Use plain letters' }));
    expect(text()).toHaveValue('Grusse an ? (5)');
    expect(screen.queryByRole('group', { name: 'What can be done about it' })).toBeNull();
  });

  it('that is too long even in parts says so, and nothing is sent', async () => {
    answers();
    writing({ way: 'radio', addressee: 'QT4LB-8', body: 'word '.repeat(1000) });
    renderPiece(<RadioText />);
    await userEvent.click(await screen.findByRole('checkbox', { name: 'Send it as several texts' }));
    expect(screen.getAllByText(/more than 9 parts/).length).toBeGreaterThan(0);
    expect(written().inParts).toBe(false);
  });

  it('is addressed to somebody heard, made of phrases, and says what the button will do', async () => {
    const asked = answers({ 'POST /api/v1/items': { status: 201, body: arrivedItem({ direction: 'out' }) } });
    renderPiece(<RadioText />);
    const all = await screen.findByRole('group', { name: 'Heard lately' });
    expect(within(all).queryByRole('button', { name: 'To 01D1-0005' })).toBeNull();
    await userEvent.type(await to(), 'qt4');
    const heard = await screen.findByRole('group', { name: 'Heard lately' });
    expect(within(heard).getAllByRole('button')).toHaveLength(2);
    await userEvent.click(within(heard).getByRole('button', { name: 'To QT4LB-8' }));
    expect(await to()).toHaveValue('QT4LB-8');
    await userEvent.click(screen.getByRole('button', { name: 'Add “All well”' }));
    await userEvent.click(screen.getByRole('button', { name: 'Add “Standing by”' }));
    expect(text()).toHaveValue('All well Standing by');
    expect(screen.getByText(/^20 of 67 characters · \d\.\d\d s on the air/)).toBeTruthy();
    await userEvent.click(screen.getByRole('radio', { name: 'No digipeater' }));
    await userEvent.click(sendButton());
    await waitFor(() => expect(navigate).toHaveBeenCalledWith(`/traffic/${arrivedItem().id}`));
    expect(asked.find(({ method }) => method === 'POST')?.body).toMatchObject({
      addressee: { is: 'address', address: 'QT4LB-8' },
      content: { is: 'text', body: 'All well Standing by' },
      way: { by: 'packets', askAcknowledgement: true, path: [], bearerId: 'radio' },
      answers: null,
    });
    // It is a draft no more, with all that belonged to it.
    expect(written()).toMatchObject({ body: '', addressee: '', school: 'advised' });
  });

  it('goes to the call of somebody of the list, at the cost of the modem it goes over', async () => {
    const slow = modemLink({
      config: { ...modemLink().config, txDelayMs: 1500 } as BearerConfig,
      tuned: { frequencyHz: 145_825_000, before: [] },
    });
    answers({
      'GET /api/v1/bearers': { body: [slow] },
      'GET /api/v1/people': { body: [person('Ferry Office', { call: 'QT1NC-9' }), person('Farm', { node: 'LSFARM' })] },
    });
    renderPiece(<RadioText />);
    await to();
    const people = await screen.findByRole('group', { name: 'People' });
    expect(within(people).getAllByRole('button')).toHaveLength(1);
    await userEvent.click(within(people).getByRole('button', { name: 'To Ferry Office' }));
    expect(await to()).toHaveValue('QT1NC-9');
    expect(screen.queryByRole('group', { name: 'People' })).toBeNull();
    await userEvent.type(text(), 'All well');
    // Longer than the delay alone; with the usual 300 ms it would be well under a second.
    expect(screen.getByText(/^8 of 67 characters · 1\.[89]\d s on the air/)).toBeTruthy();
    expect(screen.getByRole('button', { name: /^Send by 145\.825 / })).toBeTruthy();
  });

  it('that could not be queued is kept, and sent under the same number when it is tried again', async () => {
    const asked = answers({ 'POST /api/v1/items': { status: 503, body: { title: 'Database is down' } } });
    writing({ addressee: 'QT4LB-8', body: 'Water is rising' });
    renderPiece(<RadioText />);
    await to();
    await waitFor(() => expect(sendButton()).not.toHaveAttribute('aria-disabled', 'true'));
    await userEvent.click(sendButton());
    expect(await screen.findByText('Not queued; what you wrote is kept')).toBeTruthy();
    expect(text()).toHaveValue('Water is rising');
    // By keys as well, from within the text alone.
    await userEvent.click(document.body);
    await userEvent.keyboard('{Control>}{Enter}{/Control}');
    expect(asked.filter(({ method }) => method === 'POST')).toHaveLength(1);
    await userEvent.click(text());
    await userEvent.keyboard('{Control>}{Enter}{/Control}');
    const posts = () => asked.filter(({ method }) => method === 'POST').map(({ body }) => (body as { id: string }).id);
    await waitFor(() => expect(posts()).toHaveLength(2));
    expect(posts()[0]).toBe(posts()[1]);
    expect(navigate).not.toHaveBeenCalled();
  });

  it('is refused before it is sent: too long, forbidden characters, no such call, no such path', async () => {
    const asked = answers();
    writing({ addressee: 'QT4LB-8', body: 'x'.repeat(68) });
    renderPiece(<RadioText />);
    await to();
    await waitFor(() => expect(text()).toHaveAttribute('aria-invalid', 'true'));
    expect(sendButton()).toHaveAttribute('aria-disabled', 'true');
    await userEvent.clear(text());
    await userEvent.type(text(), 'curly {{1');
    expect(text()).toHaveAttribute('aria-invalid', 'true');
    await userEvent.clear(text());
    await userEvent.type(text(), 'fine');
    expect(text()).not.toHaveAttribute('aria-invalid', 'true');
    await userEvent.click(screen.getByRole('radio', { name: 'Another path' }));
    const path = screen.getByRole('textbox', { name: 'Path elements' });
    await userEvent.type(path, 'WIDE1-1,TOOLONGCALL');
    expect(path).toHaveAttribute('aria-invalid', 'true');
    expect(sendButton()).toHaveAttribute('aria-disabled', 'true');
    expect(asked.some(({ method }) => method === 'POST')).toBe(false);
  });

  it('says what an acknowledgement would prove, and what without one would not', async () => {
    answers();
    writing({ addressee: 'QT4LB-8', body: 'Hello' });
    renderPiece(<RadioText />);
    await to();
    expect(screen.getByText(/tried up to 5 times until QT4LB-8 acknowledges/)).toBeTruthy();
    await userEvent.click(screen.getByRole('checkbox', { name: 'Ask for an acknowledgement' }));
    expect(screen.getByText(/nothing will prove that it arrived/)).toBeTruthy();
  });

  it('asks the two questions first, and does without a modem what can be done', async () => {
    answers({
      'GET /api/v1/settings': { body: { ...openSettings, antennaConfirmed: false } },
      'GET /api/v1/bearers': { body: [] },
    });
    writing({ addressee: 'QT4LB-8', body: 'Hello' });
    renderPiece(<RadioText />);
    await to();
    expect(await screen.findByText('No modem')).toBeTruthy();
    expect(screen.getByRole('checkbox', { name: /antenna/ })).not.toBeChecked();
    expect(sendButton()).toHaveAttribute('aria-disabled', 'true');
    await userEvent.click(screen.getByRole('link', { name: 'Go to Bearers' }));
    expect(navigate).toHaveBeenCalledWith('/bearers');
    expect(text()).toHaveValue('Hello');
  });

  it('waits at a bearer that is down, and says so', async () => {
    answers({
      'GET /api/v1/bearers': {
        body: [
          modemLink({
            state: { link: 'down', since: '2026-11-25T08:00:00.000Z', reason: 'No answer.', nextTryAt: null },
          }),
        ],
      },
    });
    renderPiece(<RadioText />);
    await to();
    expect(await screen.findByText('Modem is down')).toBeTruthy();
    expect(screen.getByText('No answer. The text waits and goes out when the bearer is up.')).toBeTruthy();
  });
});

describe('what a text costs', () => {
  it('is its length, its air time, and what repeats add', () => {
    expect(lengthWords(5, null, null)).toBe('5 of 67 characters');
    expect(lengthWords(5, 0.81, 0.81)).toBe('5 of 67 characters · 0.81 s on the air');
    expect(lengthWords(5, 0.81, 2.43)).toBe(
      '5 of 67 characters · 0.81 s on the air, 2.4 s of the channel if one repeats it at each hop',
    );
  });
});

import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { SYMPTOMS, type OwnCause, type Seen } from '@tombolo/core';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { AT } from '../../../testing/samples';
import { ReadyPlace } from './ready-place';
import { aboutWords, chanceWords } from './words';

let mockSymptom: string | undefined;
jest.mock('expo-router', () => ({
  useLocalSearchParams: () => ({ symptom: mockSymptom }),
  router: { navigate: jest.fn() },
}));

const SEEN: Seen[] = [
  { testId: 'licence', outcomeId: 'yes', words: 'You have said that your licence covers it.' },
  { testId: 'lock', outcomeId: 'no', words: 'The transmitter is not locked.' },
  { testId: 'hold', outcomeId: 'no', words: 'Nothing is held.' },
  { testId: 'bearer', outcomeId: 'yes', words: 'Modem is switched on.' },
  { testId: 'port', outcomeId: 'yes', words: 'Modem answers.' },
];
const answers = (more: Record<string, { status?: number; body: unknown }> = {}) =>
  stationAnswers({
    'GET /api/v1/ready/seen': { body: SEEN },
    'GET /api/v1/ready/runs': { body: { runs: [], counted: {} } },
    'GET /api/v1/ready/causes': { body: [] },
    ...more,
  });
const press = async (name: string | RegExp) => userEvent.click(await screen.findByRole('button', { name }));
const safe = async () => {
  await press(/^Yes: Is an antenna/);
  await press(/^Yes: Is everybody at least/);
  await press(/^Yes: Is the cell/);
};

describe('a ready check', () => {
  it('begins with what somebody sees', async () => {
    mockSymptom = undefined;
    answers();
    renderPiece(<ReadyPlace />);
    const list = within(screen.getByRole('list', { name: 'What is wrong' }));
    expect(list.getAllByRole('link').map((link) => link.textContent)).toEqual(SYMPTOMS.map(({ words }) => words));
    expect(list.getByRole('link', { name: 'Nothing goes out' })).toHaveAttribute(
      'href',
      '/tools/ready?symptom=nothing-goes-out',
    );
  });

  it('asks what is dangerous first, then by the time it takes, shows what it saw itself, and keeps what it was', async () => {
    mockSymptom = 'nothing-goes-out';
    const run = { id: 'x', symptom: 'nothing-goes-out', answers: {}, found: 'modem-off', fixed: true, at: AT };
    const asked = answers({ 'POST /api/v1/ready/runs': { status: 201, body: { ...run, id: crypto.randomUUID() } } });
    renderPiece(<ReadyPlace />);
    expect(await screen.findByText(/^Asked before everything else/)).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: /^I cannot tell/ })).toBeNull();
    expect(within(screen.getByRole('list', { name: 'Seen by the station' })).getByText('Modem answers.')).toBeTruthy();
    await safe();
    expect(screen.getByText(/^It takes about \d+ s: .* on average/)).toBeInTheDocument();
    expect(screen.getAllByRole('listitem').length).toBeGreaterThan(3);
    // What somebody sees whose modem is off, whatever is asked.
    const shown =
      /^(Nothing at all: What comes|No: (Is the packet mark|Did a wireless|Does the set key when something|Does the display dim)|Yes: (Does the line|Is the modem set to KISS|Does the packet mark|Does the busy|Does the set key when the key))/;
    for (let n = 0; n < 12 && screen.queryByRole('button', { name: /^It was that/ }) === null; n++)
      await userEvent.click(screen.getByRole('button', { name: shown }));
    expect(screen.getByRole('heading', { name: 'The modem in the set is off' })).toBeInTheDocument();
    await press('It was that: The modem in the set is off');
    await waitFor(() => expect(asked.some(({ method }) => method === 'POST')).toBe(true));
    expect(asked.find(({ method }) => method === 'POST')!.body).toMatchObject({
      symptom: 'nothing-goes-out',
      found: 'modem-off',
      fixed: true,
      answers: { antenna: 'yes', port: 'yes', mark: 'no' },
    });
    expect(await screen.findByText('Next time it is thought of sooner.')).toBeInTheDocument();
  });

  it('stops at what is dangerous, and goes on when it is put right', async () => {
    mockSymptom = 'nothing-goes-out';
    answers();
    renderPiece(<ReadyPlace />);
    await press(/^No: Is an antenna/);
    expect(screen.getByRole('heading', { name: 'No antenna is connected' })).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: /^It was that/ })).toBeNull();
    await press(/^It is put right: go on/);
    expect(
      await screen.findByText('Is everybody at least as far from the antenna as your exposure rules ask?'),
    ).toBeTruthy();
  });

  it('takes an answer back, passes over what nobody can tell, and says when answers contradict each other', async () => {
    mockSymptom = 'wrong-place';
    answers({ 'GET /api/v1/ready/seen': { body: [] } });
    renderPiece(<ReadyPlace />);
    const first = (await screen.findAllByRole('heading', { level: 3 }))[0]!.textContent;
    await press(/^I cannot tell/);
    expect(screen.getAllByRole('heading', { level: 3 })[0]!.textContent).not.toBe(first);
    await press('Take back the last answer');
    expect(screen.getAllByRole('heading', { level: 3 })[0]!.textContent).toBe(first);
  });

  it('asks for what an operator added here, who can add more', async () => {
    mockSymptom = 'mail-ends';
    const fuse: OwnCause = {
      id: crypto.randomUUID(),
      symptom: 'mail-ends',
      words: 'The gateway was moved',
      remedy: 'Ask net control',
      question: 'Was it announced elsewhere?',
      costS: 5,
      weight: 20,
    };
    const asked = answers({
      'GET /api/v1/ready/causes': { body: [fuse] },
      'GET /api/v1/ready/runs': {
        body: {
          runs: [{ ...fuse, found: fuse.id, fixed: true, answers: {}, at: AT }].map(
            ({ id, symptom, found, fixed, answers: given, at }) => ({ id, symptom, found, fixed, answers: given, at }),
          ),
          counted: { 'mail-ends': { [fuse.id]: 30 } },
        },
      },
    });
    renderPiece(<ReadyPlace />);
    expect(await screen.findByRole('button', { name: 'Yes: Was it announced elsewhere?' })).toBeInTheDocument();
    expect(screen.getByText('A mail session ends at once: The gateway was moved')).toBeInTheDocument();
    await press('Add a cause');
    await press('Add the cause');
    expect((await screen.findAllByText('something is missing here')).length).toBe(3);
    expect(asked.some(({ method }) => method === 'PUT')).toBe(false);
  });
});

describe('words of a check', () => {
  it('never say that something possible is impossible, or likely certain', () => {
    expect([1, 0.999, 0.996, 0.5, 0.004, 0.001].map(chanceWords)).toEqual([
      'nothing else is left',
      'over 99 %',
      'over 99 %',
      '50 %',
      'under 1 %',
      'under 1 %',
    ]);
    expect([0.2, 5, 89, 90, 600].map(aboutWords)).toEqual(['1 s', '5 s', '89 s', '2 min', '10 min']);
  });
});

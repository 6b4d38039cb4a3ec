import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { INTERNET, type EverybodyView, type Reliance } from '@tombolo/contract';
import { useState } from 'react';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { EveryWay } from './every-way';
import { EVERYBODY, useKeptPlans } from './kept-plans';
import { together } from './use-everybody';
import { WhatMayFail } from './what-may-fail';

jest.mock('expo-router', () => ({ router: { push: jest.fn() } }));

type Asked = EverybodyView['people'][number];
const reached = (name: string, chance: number, by: readonly string[]): Asked => ({
  id: name,
  name,
  surest: chance === 0 ? null : { title: `By ${by[0]}`, chance, basis: 'map' },
  by: [...by],
  why: chance === 0 ? 'It is not connected.' : null,
});
const thing = (id: string, what: Reliance['what'], needed: readonly string[]): Reliance => ({
  id,
  what,
  label: id === INTERNET ? 'The internet behind gateways' : id.toUpperCase(),
  needed: [...needed],
});

/** The ferry office hangs on the internet, the farm on the mesh; without the internet the clinic hangs on the mesh as well. */
const PEOPLE: Readonly<Record<string, readonly Asked[]>> = {
  '': [
    reached('Ferry', 0.7, ['POSTBX']),
    reached('Farm', 0.9, ['Mesh']),
    reached('Clinic', 0.9, ['POSTBX', 'Mesh']),
    reached('Away', 0, []),
  ],
  [INTERNET]: [
    reached('Ferry', 0, []),
    reached('Farm', 0.9, ['Mesh']),
    reached('Clinic', 0.5, ['Mesh']),
    reached('Away', 0, []),
  ],
};
const RELIES: Readonly<Record<string, readonly Reliance[]>> = {
  '': [thing(INTERNET, 'internet', ['Ferry']), thing('mesh', 'bearer', ['Farm']), thing('QT0TH-3', 'station', [])],
  [INTERNET]: [thing('mesh', 'bearer', ['Farm', 'Clinic'])],
};
const AT_ONCE = 3;

function Held({ begin, besides }: { begin: string; besides: string }) {
  const [said, setSaid] = useState({ off: begin, beside: besides });
  return <EveryWay {...said} change={(some) => setSaid({ ...said, ...some })} />;
}

/** A station that tells of three at a time. */
function open({
  off = '',
  beside = '',
  fails = () => false,
}: { off?: string; beside?: string; fails?: (thought: string) => boolean } = {}) {
  const said = () => new URL(asked.at(-1)!.path, 'http://station').searchParams;
  const asked: { path: string }[] = stationAnswers({
    'GET /api/v1/ways/everybody': {
      get status() {
        return fails(said().get('off') ?? '') ? 500 : 200;
      },
      get body(): unknown {
        const searchParams = said();
        const thought = searchParams.get('off') ?? '';
        const from = Number(searchParams.get('from') ?? 0);
        const people = PEOPLE[thought]!;
        return {
          at: '2026-01-01T00:00:00.000Z',
          people: people.slice(from, from + AT_ONCE),
          of: people.length,
          relies: from === 0 ? RELIES[thought] : [],
        };
      },
    },
  });
  renderPiece(<Held begin={off} besides={beside} />);
  return asked;
}
const left = async () =>
  within(await screen.findByRole('list', { name: 'Who is left' }))
    .getAllByRole('listitem')
    .map((row) => row.textContent);
const cellsOf = (row: HTMLElement) =>
  within(row)
    .getAllByRole('cell')
    .map(({ textContent }) => textContent);
const box = (name: string) => screen.findByRole('checkbox', { name });

beforeEach(() => {
  localStorage.clear();
  useKeptPlans.setState({ plans: [] });
});

describe('all ways together', () => {
  it('tell of everybody on the list, some after the others, and on what somebody hangs', async () => {
    const asked = open();
    expect(await left()).toEqual([
      'Awayno wayIt is not connected.',
      'Ferry70 of 100Surest: By POSTBX, a guess. By nothing else.',
      'Farm90 of 100Surest: By Mesh, a guess. By nothing else.',
      'Clinic90 of 100Surest: By POSTBX, a guess. Also by Mesh.',
    ]);
    await screen.findByText('Without any way now: Away.');
    expect(asked.map(({ path }) => path.replace(/.*\?/, ''))).toEqual(['from=0', 'from=3']);
    await screen.findByText('Without it nothing is left to Ferry.');
    // What nobody hangs on is there when it is asked for.
    expect(screen.queryByRole('checkbox', { name: 'QT0TH-3' })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'All that is made use of (3)' }));
    await box('QT0TH-3');
  });

  it('are fewer with something thought off, by keys alone, and as they were when that is taken back', async () => {
    open();
    (await box('The internet behind gateways')).focus();
    await userEvent.keyboard(' ');
    await screen.findByText('Left without any way: Ferry. Worse: Clinic. Without any way already: Away.');
    expect(await left()).toEqual([
      'Ferry70 → 0 of 100, cut offNothing of what is left leads there.',
      'Clinic90 → 50 of 100, worseSurest: By Mesh, a guess. By nothing else.',
      'Away0 → 0 of 100, not reachedNothing of what is left leads there.',
      'Farm90 → 90 of 100, as beforeSurest: By Mesh, a guess. By nothing else.',
    ]);
    await screen.findByText('Without it as well nothing is left to Farm, Clinic.');
    await userEvent.click(screen.getByRole('button', { name: 'All as it is' }));
    await screen.findByText('Without any way now: Away.');
    expect(((await box('The internet behind gateways')) as HTMLInputElement).getAttribute('aria-checked')).toBe(
      'false',
    );
  });

  it('are kept by a name, opened again, and put beside each other', async () => {
    open();
    await userEvent.click(await box('The internet behind gateways'));
    await screen.findByText(/^Left without any way: Ferry/);
    await userEvent.type(screen.getByRole('textbox', { name: 'Name of this plan' }), 'No internet{Enter}');
    const shelf = screen.getByRole('list', { name: 'Plans kept here' });
    await within(shelf).findByText('Off: The internet behind gateways.');
    expect(useKeptPlans.getState().plans).toEqual([{ name: 'No internet', plan: INTERNET, mesh: EVERYBODY }]);
    await userEvent.click(screen.getByRole('button', { name: 'All as it is' }));
    await screen.findByText('Without any way now: Away.');
    // What was thought before comes back, and goes again.
    await userEvent.click(screen.getByRole('button', { name: 'Undo: the last change' }));
    await screen.findByText(/^Left without any way: Ferry/);
    await userEvent.click(await box('The internet behind gateways'));
    await userEvent.click(screen.getByRole('checkbox', { name: 'Beside the others: No internet' }));
    const table = await screen.findByRole('table', { name: 'Plans beside each other' });
    await within(table).findAllByText('0');
    const [heads, ...rows] = within(table).getAllByRole('row');
    expect(
      within(heads!)
        .getAllByRole('columnheader')
        .map((head) => head.getAttribute('aria-label') ?? head.textContent),
    ).toEqual(['Whom', 'As it is', 'No internet']);
    expect(rows.map((row) => [within(row).getByRole('rowheader').textContent, ...cellsOf(row)])).toEqual([
      ['Some way to', '3', '2'],
      ['Hang on one thing alone', '2', '2'],
      ['Ferry', '70', '0'],
      ['Clinic', '90', '50'],
      ['Away', '0', '0'],
      ['Farm', '90', '90'],
    ]);
    await userEvent.click(screen.getByRole('button', { name: 'Open: No internet' }));
    await screen.findByText(/^Left without any way: Ferry/);
  });

  it('beside each other tell which the station did not tell, and which are not kept here', async () => {
    useKeptPlans.setState({
      plans: [
        { name: 'No internet', plan: INTERNET, mesh: EVERYBODY },
        { name: 'Of packet radio', plan: '[{"what":"off","call":"QT0TH-3"}]', mesh: '' },
      ],
    });
    let fails = true;
    open({ beside: JSON.stringify(['No internet', 'Of packet radio']), fails: (thought) => fails && thought !== '' });
    await screen.findByText('The station did not tell of all of them.');
    expect(screen.getByText(/^“Of packet radio” is not kept on this device/)).toBeVisible();
    fails = false;
    await userEvent.click(screen.getByRole('button', { name: 'Try again: plans beside each other' }));
    const table = await screen.findByRole('table', { name: 'Plans beside each other' });
    await waitFor(() => expect(cellsOf(within(table).getAllByRole('row')[1]!)).toEqual(['3', '2']));
    expect(screen.queryByText('The station did not tell of all of them.')).toBeNull();
  });

  it('tell that there is none to anybody', async () => {
    renderPiece(<WhatMayFail asItIs={[]} now={[]} off={[]} setOff={() => undefined} />);
    await screen.findByText('No way is known to anybody on your list, so that none can fail.');
  });

  it('say so when the station does not tell', async () => {
    open({ fails: () => true });
    await screen.findByRole('button', { name: 'Try again' });
    expect(screen.queryByRole('checkbox')).toBeNull();
  });

  it('can be thought as they are when the station does not tell of what was thought off', async () => {
    open({ fails: (thought) => thought !== '' });
    await userEvent.click(await box('The internet behind gateways'));
    await screen.findByRole('button', { name: 'Try again' });
    await userEvent.click(await box('The internet behind gateways'));
    await screen.findByText('Without any way now: Away.');
  });

  it('stay when they cannot be asked anew', async () => {
    let fails = false;
    const asked = open({ fails: () => fails });
    await screen.findByText('Without any way now: Away.');
    fails = true;
    const before = asked.length;
    await userEvent.click(screen.getByRole('button', { name: 'Look at the ways anew' }));
    await waitFor(() => expect(asked.length).toBeGreaterThan(before));
    await waitFor(() => expect(screen.queryByText(/Loading/)).toBeNull());
    expect(screen.queryByRole('button', { name: 'Try again' })).toBeNull();
    await screen.findByText('Without any way now: Away.');
  });

  it('take an address that was tampered with as nothing', async () => {
    open({ off: Array.from({ length: 40 }, (_, n) => `QT${n}`).join() });
    await screen.findByText('Without any way now: Away.');
  });
});

it('puts together who needs a thing, from all that was told', () => {
  const page = (relies: Reliance[]) => ({ of: 2, people: [], relies });
  expect(
    together([
      page([thing('a', 'station', []), thing('b', 'node', ['One'])]),
      page([thing('a', 'station', ['Two', 'Three']), thing('b', 'node', [])]),
    ]).relies.map(({ id, needed }) => [id, needed]),
  ).toEqual([
    ['a', ['Two', 'Three']],
    ['b', ['One']],
  ]);
  expect(together([])).toEqual({ of: 0, people: [], relies: [] });
});

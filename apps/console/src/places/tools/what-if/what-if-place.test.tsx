import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { NetView } from '@tombolo/contract';
import { CARRIER_END, MESH_END, OUR_END, REPEATER_END, USUAL_END } from '@tombolo/core';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { heardStation, meshLink, person } from '../../../testing/samples';
import { workHere, type WorkHere } from '../../../testing/work-here';
import { useKeptPlans } from './kept-plans';
import { planText } from './plan';
import { reckoned } from './reckoned';
import { WhatIfPlace } from './what-if-place';

let mockParams: Record<string, string> = {};
const mockSet = jest.fn();
jest.mock('expo-router', () => ({
  useLocalSearchParams: () => mockParams,
  router: { setParams: (params: Record<string, string>) => mockSet(params) },
}));
const mockWorks: WorkHere[] = [];
jest.mock('./what-if-worker', () => ({
  whatIfWorker: () => {
    const work = mockStart();
    mockWorks.push(work);
    return work;
  },
}));
const mockStart = () => workHere(reckoned);

const sure = { alpha: 95, beta: 5 };
const station = (
  call: string,
  label: string,
  latitude: number,
  more: Partial<NetView['stations'][number]> = {},
): NetView['stations'][number] => ({
  call,
  label,
  name: null,
  place: { latitude, longitude: -2.2 - latitude },
  repeats: false,
  wanted: true,
  end: USUAL_END,
  ...more,
});
const net: NetView = {
  at: '2026-01-01T00:00:00.000Z',
  own: 'QT2AR-7',
  bearerId: null,
  mesh: null,
  mostRepeats: 2,
  addedEnd: REPEATER_END,
  stations: [
    station('QT2AR-7', 'QT2AR-7', 41.2, { wanted: false, end: OUR_END }),
    station('QT0TH-3', 'QT0TH-3', 41.22, { repeats: true, wanted: false }),
    station('QT6CL', 'QT6CL', 41.24, { name: 'Dr Hallow' }),
  ],
  hops: ['QT2AR-7', 'QT6CL'].flatMap((call) => [
    { from: call, to: 'QT0TH-3', belief: sure, seen: true },
    { from: 'QT0TH-3', to: call, belief: sure, seen: true },
  ]),
  silences: [],
};
const bearer = meshLink();
const node = (call: string, label: string, latitude: number, wanted = true) =>
  station(call, label, latitude, { repeats: true, wanted, end: MESH_END });
const mesh: NetView = {
  ...net,
  own: '01D1-0002',
  bearerId: bearer.id,
  mesh: { frequencyHz: 868_300_000, spreadingFactor: 9, bandwidthHz: 125_000, codingRate: 1 },
  mostRepeats: 4,
  addedEnd: CARRIER_END,
  stations: [
    node('01D1-0002', 'SKSCHL', 41.2, false),
    node('01D1-0003', 'BCNRIG', 41.22),
    node('01D1-0005', 'LSFARM', 41.24),
  ],
  hops: ['01D1-0002', '01D1-0005'].flatMap((call) => [
    { from: call, to: '01D1-0003', belief: sure, seen: true },
    { from: '01D1-0003', to: call, belief: sure, seen: true },
  ]),
};
const open = (body: NetView = net, plan = '', beside = '') => {
  mockParams = {
    ...(plan !== '' && { plan }),
    ...(beside !== '' && { beside }),
    ...(body.bearerId !== null && { mesh: body.bearerId }),
  };
  const asked = stationAnswers({
    'GET /api/v1/net': { body },
    'GET /api/v1/bearers': { body: [bearer] },
    'GET /api/v1/people': { body: [person('Dr Hallow', { call: 'QT6CL' })] },
    'GET /api/v1/stations': { body: [heardStation({ call: 'QT1NC', latitude: 41.21, longitude: -43.41 })] },
    'GET /api/v1/settings': { body: {} },
    'GET /api/v1/reach/ground': {
      body: { heights: Buffer.from(new Int16Array(200_000).fill(30).buffer).toString('base64'), missing: [] },
    },
  });
  renderPiece(<WhatIfPlace />);
  return asked;
};
const done = async () => {
  await waitFor(() => expect(mockWorks.length).toBeGreaterThan(0));
  await mockWorks.at(-1)!.run();
};
const told = () => mockSet.mock.calls.at(-1)?.[0].plan;
const press = async (name: string | RegExp) => userEvent.click(await screen.findByRole('button', { name }));
const changed = async (plan: string) => {
  await waitFor(() => expect(told()).toBe(plan === '' ? undefined : plan));
};

beforeEach(() => {
  localStorage.clear();
  useKeptPlans.setState({ plans: [] });
  mockWorks.length = 0;
  mockSet.mockClear();
});

describe('what if', () => {
  it('shows whom one reaches now and on whom it hangs, and thinks that one away with a press', async () => {
    open();
    await done();
    const list = await screen.findByRole('list', { name: 'Whom you reach' });
    expect(within(list).getByText('QT6CL (Dr Hallow)')).toBeInTheDocument();
    expect(within(list).getByText(/^9\d of 100$/)).toBeInTheDocument();
    expect(screen.getByText('Without QT0TH-3 no other way is known to QT6CL (Dr Hallow).')).toBeInTheDocument();
    await press('Think QT0TH-3 off');
    await changed(planText([{ what: 'off', call: 'QT0TH-3' }]));
  });

  it('shows a plan that stands in the address, who is cut off by it, and takes it back', async () => {
    open(net, planText([{ what: 'off', call: 'QT0TH-3' }]));
    await done();
    expect(await screen.findByText('Cut off: QT6CL (Dr Hallow).')).toBeInTheDocument();
    expect(screen.getByText(/^9\d → 0 of 100, cut off$/)).toBeInTheDocument();
    expect(await screen.findByText(/^No other address is noted of Dr Hallow: every way/)).toBeInTheDocument();
    await press('As it is: QT0TH-3 is off');
    await changed('');
    await press('Undo: the last change');
    await changed(planText([{ what: 'off', call: 'QT0TH-3' }]));
  });

  it('looks for a place where one more helps, shows how far it is, and takes it into the plan', async () => {
    open(net, planText([{ what: 'off', call: 'QT0TH-3' }]));
    await done();
    await press('Look for one place');
    await waitFor(() => expect(mockWorks.length).toBe(2));
    await mockWorks[1]!.step(8);
    expect(screen.getByText(/^\d+ of \d+ places are looked at\.$/)).toBeInTheDocument();
    // What is told of whom one reaches stays meanwhile.
    expect(screen.getByText('Cut off: QT6CL (Dr Hallow).')).toBeInTheDocument();
    await mockWorks[1]!.run();
    const places = await screen.findByRole('list', { name: 'Where one more would help' });
    expect(
      within(places).getByText(/^Best: .* of you, at .* m above the sea\. It brings 0\.\d stations more/),
    ).toBeInTheDocument();
    await press('Think one there');
    await waitFor(() => expect(told()).toContain('"NEW-1"'));
  });

  it('can be stopped while it looks', async () => {
    open();
    await done();
    await press('Look for two');
    await waitFor(() => expect(mockWorks.length).toBe(2));
    await mockWorks[1]!.step(3);
    await press('Stop looking');
    expect(mockWorks[1]!.ended).toBe(true);
    expect(screen.queryByText(/are looked at/)).toBeNull();
  });

  it('takes each kind of change by keys alone, and says at its field what is wrong', async () => {
    open();
    await done();
    await press('Think it so');
    expect(await screen.findByText('a call of this net')).toBeInTheDocument();
    await userEvent.type(screen.getByRole('textbox', { name: 'Station' }), 'qt2ar-7');
    expect(await screen.findByText('without this station there is no question')).toBeInTheDocument();
    await userEvent.clear(screen.getByRole('textbox', { name: 'Station' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Station' }), 'qt9zz');
    expect(await screen.findByText('QT9ZZ is not in this net')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('radio', { name: 'Two no longer hear each other' }));
    await userEvent.clear(screen.getByRole('textbox', { name: 'One of the two' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'One of the two' }), 'QT6CL');
    await userEvent.type(screen.getByRole('textbox', { name: 'The other' }), 'QT6CL');
    expect(await screen.findByText('two different ones')).toBeInTheDocument();
    await userEvent.clear(screen.getByRole('textbox', { name: 'The other' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'The other' }), 'QT0TH-3');
    await press('Think it so');
    await changed(planText([{ what: 'cut', from: 'QT6CL', to: 'QT0TH-3' }]));
    await userEvent.click(screen.getByRole('radio', { name: 'One more digipeater' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Where it stands' }), 'QT1NC');
    await userEvent.type(screen.getByRole('textbox', { name: 'Power, W' }), '9999');
    expect(await screen.findByText('a number from 0.001 to 2000')).toBeInTheDocument();
    await userEvent.clear(screen.getByRole('textbox', { name: 'Power, W' }));
    await press('Think it so');
    await waitFor(() => expect(told()).toContain('"what":"added"'));
    expect(told()).toContain('"powerW":25');
    await userEvent.type(screen.getByRole('textbox', { name: 'Power, W' }), '9999');
    await userEvent.click(screen.getByRole('radio', { name: 'Your path asks for fewer digipeaters' }));
    await userEvent.click(screen.getByRole('radio', { name: 'None' }));
    await press('Think it so');
    await waitFor(() => expect(told()).toContain('{"what":"path","mostRepeats":0}'));
    expect(screen.getByText('Your path asks for no digipeater')).toBeInTheDocument();
  });

  it('keeps a plan by a name, which must be told, opens it again, and brings back what was removed', async () => {
    const off = planText([{ what: 'off', call: 'QT0TH-3' }]);
    open(net, off);
    await done();
    await press('Keep this plan');
    expect(await screen.findByText(/^a name to find it by/)).toBeInTheDocument();
    await userEvent.type(screen.getByRole('textbox', { name: 'Name of this plan' }), ' Without the hill {Enter}');
    const shelf = screen.getByRole('list', { name: 'Plans kept here' });
    expect(await within(shelf).findByText('Without the hill')).toBeInTheDocument();
    expect(within(shelf).getByText('QT0TH-3 is off.')).toBeInTheDocument();
    expect(JSON.parse(localStorage.getItem('tombolo-plans')!).state.plans).toEqual([
      { name: 'Without the hill', plan: off, mesh: '' },
    ]);
    await press('Remove: Without the hill');
    expect(within(shelf).queryByText('Without the hill')).toBeNull();
    await press('Undo: Without the hill was removed');
    expect(await within(shelf).findByText('Without the hill')).toBeInTheDocument();
    await press('As it is: QT0TH-3 is off');
    await press('Open: Without the hill');
    await changed(off);
  });

  it('puts kept plans beside each other in one table, with what is thought now, and says which are not kept here', async () => {
    const off = planText([{ what: 'off', call: 'QT0TH-3' }]);
    const cut = planText([{ what: 'cut', from: 'QT2AR-7', to: 'QT0TH-3' }]);
    useKeptPlans.setState({ plans: ['', bearer.id].map((of) => ({ name: 'Off', plan: off, mesh: of })) });
    open(net, cut, JSON.stringify(['Off', 'Elsewhere']));
    await waitFor(() => expect(mockWorks).toHaveLength(2));
    for (const work of mockWorks) await work.run();
    const table = await screen.findByRole('table', { name: 'Plans beside each other' });
    const rows = () => within(table).getAllByRole('row');
    expect(
      within(rows()[0]!)
        .getAllByRole('columnheader')
        .map((head) => head.getAttribute('aria-label') ?? head.textContent),
    ).toEqual(['Station', 'As it is', 'Thought now', 'Off']);
    const cells = (n: number) =>
      within(rows()[n]!)
        .getAllByRole('cell')
        .map(({ textContent }) => textContent);
    expect(cells(1)).toEqual(['1', '0', '0']);
    expect(cells(2)).toEqual(['1', '0', '0']);
    expect(within(rows()[3]!).getByRole('rowheader')).toHaveTextContent('QT6CL (Dr Hallow)');
    expect(cells(3)).toEqual([expect.stringMatching(/^9\d$/), '0', '0']);
    expect(
      screen.getByText('“Elsewhere” is not kept on this device, so it does not stand beside the others.'),
    ).toBeInTheDocument();
    await userEvent.click(screen.getByRole('checkbox', { name: 'Beside the others: Off' }));
    await waitFor(() => expect(mockSet.mock.calls.at(-1)?.[0].beside).toBe(JSON.stringify(['Elsewhere'])));
  });

  it('thinks of a mesh by what its nodes are called, with its hop limit, and keeps what is thought of other nets apart', async () => {
    open(mesh);
    await done();
    expect(screen.getByRole('radio', { name: bearer.name })).toBeChecked();
    const list = await screen.findByRole('list', { name: 'Whom you reach' });
    expect(within(list).getByText('LSFARM')).toBeInTheDocument();
    expect(screen.getByText('Without BCNRIG no other way is known to LSFARM.')).toBeInTheDocument();
    // Of its setting it is told what a text takes.
    expect(screen.getByText(/^A text of 60 characters is 0\.\d\d s on the air at this setting/)).toBeInTheDocument();
    expect(screen.getByText(/868\.0–868\.6 MHz is used for 1 % of each hour/)).toBeInTheDocument();
    await userEvent.type(screen.getByRole('textbox', { name: 'Node' }), 'bcnrig');
    await press('Think it so');
    await changed(planText([{ what: 'off', call: '01D1-0003' }]));
    expect(screen.getByText('BCNRIG is off')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('radio', { name: 'Another hop limit' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Hop limit' }), '1.5');
    expect(await screen.findByText('a whole number from 0 to 15')).toBeInTheDocument();
    await userEvent.clear(screen.getByRole('textbox', { name: 'Hop limit' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Hop limit' }), '1');
    await press('Think it so');
    await waitFor(() => expect(told()).toContain('{"what":"path","mostRepeats":1}'));
    expect(screen.getByText('What you send may be repeated once')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('radio', { name: 'Packet radio' }));
    await waitFor(() =>
      expect(mockSet.mock.calls.at(-1)?.[0]).toEqual({ plan: undefined, beside: undefined, mesh: undefined }),
    );
  });

  it('sets all nodes of a mesh otherwise, where a licence-free band is, and says what that costs', async () => {
    open(mesh);
    await done();
    await userEvent.click(screen.getByRole('radio', { name: 'All nodes on another band, setting or power' }));
    const frequency = () => screen.getByRole('textbox', { name: 'Middle of the channel, MHz' });
    await userEvent.type(frequency(), '145');
    expect(await screen.findByText(/must lie inside a licence-free band/)).toBeInTheDocument();
    await press('Think it so');
    await userEvent.clear(frequency());
    await userEvent.type(frequency(), '869.525');
    await userEvent.type(screen.getByRole('textbox', { name: 'Power of every node, W' }), '99');
    expect(await screen.findByText('a number from 0.001 to 5')).toBeInTheDocument();
    await userEvent.clear(screen.getByRole('textbox', { name: 'Power of every node, W' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Power of every node, W' }), '0.5');
    await userEvent.click(screen.getByRole('radio', { name: '12' }));
    await press('Think it so');
    const radio = { frequencyHz: 869_525_000, spreadingFactor: 12, bandwidthHz: 125_000, powerW: 0.5 };
    await changed(planText([{ what: 'radio', ...radio }]));
    expect(screen.getByText('All nodes at 869.525 MHz, spreading factor 12, 125 kHz, 0.5 W')).toBeInTheDocument();
    expect(screen.getByText(/869\.4–869\.65 MHz is used for 10 % of each hour/)).toBeInTheDocument();
  });

  it('says that a mesh without a frequency cannot be reckoned', async () => {
    open({ ...mesh, mesh: null, stations: [], hops: [] });
    expect(await screen.findByText('This mesh has no frequency')).toBeInTheDocument();
  });

  it('says what is wanting: the own call, the station, a worker that fails', async () => {
    open({ ...net, own: null, stations: [], hops: [] });
    expect(await screen.findByText('Your own call is not set')).toBeInTheDocument();
  });

  it('says so where what reckons fails', async () => {
    open();
    await waitFor(() => expect(mockWorks.length).toBe(1));
    mockWorks[0]!.fail();
    expect(await screen.findByText('It cannot be reckoned')).toBeInTheDocument();
  });
});

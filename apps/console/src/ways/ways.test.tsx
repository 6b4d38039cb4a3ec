import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { PlannedWay, WaysView } from '@tombolo/contract';
import { PATH_SCHOOLS } from '@tombolo/core';
import { router } from 'expo-router';
import { WritePlace } from '../places/write/write-place';
import { ProposedWays } from './proposed-ways';
import { Whom } from './whom';
import { useDrafts } from '../drafts/drafts';
import { written, writing } from '../testing/drafts';
import { renderPiece, stationAnswers } from '../testing/render';
import { meshLink, modemLink, openSettings } from '../testing/samples';
import { takingWay, whomFor } from './chosen';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const modem = modemLink();
const mesh = meshLink();
const clinic = {
  id: '5d1c8f0a-6f0e-4c36-9a52-5b1f0d3a7e03',
  name: 'Dr Renske Hallow',
  licensed: false,
  agreement: '',
  addresses: [
    { sort: 'call', address: 'QT6CL' },
    { sort: 'node', address: 'VLCLIN' },
  ],
  broughtBy: [],
};
const spread = { chance: 0.8, low: 0.6, high: 0.95 };
const byRadio: PlannedWay = {
  id: 'radio/QT6CL',
  title: 'Packet radio to QT6CL, over one digipeater',
  virtues: ['surest'],
  sentences: ['By packet radio: about 80 of 100 arrive.', 'It rests on 14 receptions.'],
  arrives: spread,
  afterFirst: null,
  works: 0.9,
  answer: { hops: 2, known: true },
  reckoned: 0.86,
  theirs: { count: 14, expected: 12.3, happened: 6 },
  proof: { rung: 'delivered', proven: { chance: 0.7, low: 0.4, high: 0.9 } },
  expectedS: 3,
  ninetyS: 40,
  airS: 2.5,
  hands: 0,
  strips: [{ from: 'you', to: 'QT6CL', chance: 0.8, seen: true }],
  rests: [
    {
      from: 'QT0TH-3',
      to: 'QT6CL',
      chance: spread,
      heard: 3,
      inferred: 2,
      missed: 1,
      heardBack: 4,
      passedOver: 3,
      missedBack: 0,
      lastAt: '2026-11-26T10:00:00.000Z',
      silence: null,
      ours: { element: 'WIDE1-1', sent: 3, repeated: 1 },
      before: { chance: 0.5, words: 'A guess from the map: 9.0 km.' },
    },
  ],
  tries: { answered: 2, unanswered: 1, inSilence: 1 },
  basis: 'evidence',
  cautions: ['Dr Renske Hallow has no licence.'],
  send: {
    way: { by: 'packets', bearerId: modem.id, path: ['WIDE1-1'], askAcknowledgement: true, times: 4 },
    to: 'QT6CL',
    inParts: false,
    command: null,
    broughtBy: null,
  },
};
const byMesh: PlannedWay = {
  ...byRadio,
  id: 'mesh/01D1-0006',
  title: 'Mesh, to node VLCLIN',
  virtues: ['fails for other reasons'],
  rests: [],
  strips: [{ from: 'you', to: 'VLCLIN', chance: 0.4, seen: false }],
  send: {
    way: { by: 'texts', bearerId: mesh.id, channel: 'Sound' },
    to: '01D1-0006',
    inParts: false,
    command: null,
    broughtBy: null,
  },
};
const view = (more: Partial<WaysView> = {}): WaysView => ({
  at: '2026-11-26T10:00:00.000Z',
  person: clinic.name,
  ways: [byRadio, byMesh],
  excluded: [{ title: 'Mail', reason: 'It is switched off.', remedy: 'Switch it on under Bearers.' }],
  cut: false,
  askFirst: null,
  ...more,
});
const here = (ways: WaysView | null = view()) => ({
  'GET /api/v1/settings': { body: openSettings },
  'GET /api/v1/stations': { body: [] },
  'GET /api/v1/tactical-names': { body: [] },
  'GET /api/v1/people': { body: [clinic] },
  'GET /api/v1/mesh-nodes': { body: [] },
  'GET /api/v1/bearers': { body: [modem, mesh] },
  ...(ways && { 'POST /api/v1/ways': { body: ways } }),
});
const field = (name: string) => screen.findByRole('textbox', { name });
const draft = () => useDrafts.getState().drafts[useDrafts.getState().open]!;
beforeEach(() => writing());

describe('a second way, announced before what is urgent is sent', () => {
  const oneHop = PATH_SCHOOLS.find(({ path }) => path.join() === 'WIDE1-1')!.id;
  const show = async (precedence: 'routine' | 'priority', ways: PlannedWay[] = [byRadio, byMesh]) => {
    writing({ whom: clinic.name, way: 'radio', addressee: 'QT6CL', body: 'Hello', school: oneHop, precedence });
    stationAnswers(here(view({ ways })));
    renderPiece(<WritePlace />);
    await screen.findByRole('list', { name: 'Proposed ways' });
    return screen.queryByText(/its item offers a second way/)?.textContent ?? null;
  };

  it('is the surest that fails for other reasons, with what both promise', async () => {
    const surer = { ...byMesh, id: 'mesh/2', title: 'Mesh, to node VLAID', arrives: { ...spread, chance: 0.9 } };
    // Either of 0.8 and 0.9 by themselves: 1 − 0.2 × 0.1.
    expect(await show('priority', [byRadio, byMesh, surer])).toBe(
      'It is urgent: once it is queued, and until somebody has it, its item offers a second way: Mesh, to node VLAID. With both, at most about 98 of 100 arrive by one or the other, for somebody who is away is reached by neither.',
    );
  });

  it('is none for what is not urgent, and where all is carried alike', async () => {
    expect(await show('routine')).toBeNull();
    cleanup();
    const otherPath = { ...byRadio, id: 'radio/2', send: { ...byRadio.send, to: 'QT6CL-2' } };
    expect(await show('priority', [byRadio, otherPath])).toBeNull();
    cleanup();
    // Its items would be of the parts, which offer none.
    expect(await show('priority', [{ ...byRadio, send: { ...byRadio.send, inParts: true } }, byMesh])).toBeNull();
  });
});

describe('the path to a call that was written by hand', () => {
  const openFor = async (ways: readonly PlannedWay[]) => {
    writing({ way: 'radio', addressee: 'QT6CL', body: 'Hello' });
    stationAnswers(here(view({ person: null, ways: [...ways] })));
    renderPiece(<WritePlace />);
    await screen.findByRole('list', { name: 'Proposed ways' });
    return within(screen.getByRole('radiogroup', { name: 'Path' })).getByRole('radio', { checked: true });
  };
  const untried = { answered: 0, unanswered: 0, inSilence: 0 };

  it('is that of the way that something of ours was answered by', async () => {
    expect(await openFor([byRadio])).toHaveAccessibleName('WIDE1-1');
    expect(screen.getByText('Proposed. By packet radio: about 80 of 100 arrive.')).toBeInTheDocument();
  });

  it('is the widest where a narrower one is only believed to work', async () => {
    expect(await openFor([{ ...byRadio, tries: untried }])).toHaveAccessibleName('WIDE1-1,WIDE2-1');
    expect(screen.getByText(/as long as no narrower one has shown that it works/)).toBeInTheDocument();
  });

  it('is none where the other end was heard straight', async () => {
    const direct: PlannedWay = {
      ...byRadio,
      tries: untried,
      rests: [{ ...byRadio.rests[0]!, from: 'QT6CL', to: 'QT2AR-7' }],
      send: { ...byRadio.send, way: { by: 'packets', bearerId: modem.id, path: [], askAcknowledgement: true } },
    };
    expect(await openFor([direct])).toHaveAccessibleName('No digipeater');
  });
});

describe('asking first', () => {
  const askFirst: WaysView['askFirst'] = {
    title: 'Packet radio to QT6CL, over one digipeater',
    text: '?APRST',
    airS: 3.24,
    settles: 0.31,
    ways: 4,
    send: byRadio.send,
  };

  it('becomes a text of its own, and what was begun stays', async () => {
    writing({ way: 'radio', whom: clinic.name, addressee: 'QT6CL', body: 'All well?' });
    const begun = draft().id;
    stationAnswers(here(view({ ways: [{ ...byRadio, basis: 'map' }], askFirst })));
    renderPiece(<WritePlace />);
    const card = within(await screen.findByRole('region', { name: 'Ask first' }));
    expect(
      card.getByText(/^About 3\.2 s of the channel.* settle 31 of 100 .* about 4 ways to it\.$/),
    ).toBeInTheDocument();
    await userEvent.click(card.getByRole('button', { name: 'Write ?APRST as a text of its own' }));
    expect(written()).toMatchObject({ way: 'radio', body: '?APRST', school: 'fill-in only', askAcknowledgement: true });
    expect(draft().id).not.toBe(begun);
    // The address names what is shown, so that a reload shows it again.
    expect(jest.mocked(router.navigate)).toHaveBeenLastCalledWith(`/write?draft=${draft().id}`);
    expect(useDrafts.getState().drafts[begun]).toMatchObject({ body: 'All well?' });
  });

  it('is not in the way of what rests on evidence, until the ways are compared', async () => {
    writing({ way: 'radio', whom: clinic.name, addressee: 'QT6CL', body: 'All well?' });
    stationAnswers(here(view({ askFirst })));
    renderPiece(<WritePlace />);
    const compare = await screen.findByRole('button', { name: /^Compare / });
    expect(screen.queryByRole('region', { name: 'Ask first' })).toBeNull();
    await userEvent.click(compare);
    expect(screen.getByRole('region', { name: 'Ask first' })).toBeInTheDocument();
  });
});

describe('writing to somebody', () => {
  it('begins with whom: the surest way is taken, and can be compared and changed', async () => {
    const asked = stationAnswers(here());
    renderPiece(<WritePlace />);
    await userEvent.type(await field('Whom'), 'rens');
    await userEvent.click(screen.getByRole('button', { name: 'For Dr Renske Hallow' }));
    await waitFor(() =>
      expect(draft()).toMatchObject({ way: 'radio', to: { radio: 'QT6CL' }, school: 'fill-in only' }),
    );
    expect(screen.getByRole('status')).toHaveTextContent(
      'Proposed and set below: Packet radio to QT6CL, over one digipeater.',
    );
    await userEvent.type(await field('Text'), 'Insulin comes');
    const ways = await screen.findByRole('region', { name: 'Ways' });
    expect(await within(ways).findByText('What you have chosen is what is proposed.')).toBeVisible();
    // What the way costs hangs on the text.
    await waitFor(() =>
      expect(asked.filter(({ path }) => path === '/api/v1/ways').at(-1)!.body).toMatchObject({
        to: 'Dr Renske Hallow',
        text: 'Insulin comes',
      }),
    );
    expect(within(ways).queryByText('Mesh, to node VLCLIN')).toBeNull();
    await userEvent.click(within(ways).getByRole('button', { name: 'Compare 1 other way' }));
    expect(within(ways).getByText('Not: Mail')).toBeVisible();
    await userEvent.click(within(ways).getByRole('button', { name: /^Take this way/ }));
    // The text goes along, the addressee is who it was.
    expect(draft()).toMatchObject({
      way: 'mesh',
      whom: 'Dr Renske Hallow',
      to: { radio: 'QT6CL', mesh: 'Dr Renske Hallow' },
      channel: 'Sound',
      body: 'Insulin comes',
    });
  });

  it('sets no path that nothing has shown to work: the surest way is proposed, and its path is set when it is taken', async () => {
    const believed = { ...byRadio, tries: { answered: 0, unanswered: 0, inSilence: 0 } };
    stationAnswers(here(view({ ways: [believed, byMesh] })));
    renderPiece(<WritePlace />);
    await userEvent.type(await field('Whom'), 'Dr Renske Hallow{Enter}');
    await waitFor(() =>
      expect(screen.getByRole('status')).toHaveTextContent(
        'Proposed: Packet radio to QT6CL, over one digipeater. Nothing of ours was answered by that path yet, so below stands the one that is taken where nobody chooses.',
      ),
    );
    expect(draft()).toMatchObject({ way: 'radio', to: { radio: 'QT6CL' }, school: 'advised' });
    const ways = await screen.findByRole('region', { name: 'Ways' });
    await userEvent.type(await field('Text'), 'Insulin comes');
    await userEvent.click((await within(ways).findAllByRole('button', { name: /^Take this way/ }))[0]!);
    expect(draft()).toMatchObject({ school: 'fill-in only' });
  });

  it('does not claim to have set what it could not', async () => {
    stationAnswers({ ...here(), 'GET /api/v1/bearers': { status: 503, body: { title: 'away', detail: 'away' } } });
    renderPiece(<Whom />);
    await userEvent.type(await field('Whom'), 'Dr Renske Hallow{Enter}');
    await waitFor(() =>
      expect(screen.getByRole('status')).toHaveTextContent(
        'Proposed: Packet radio to QT6CL, over one digipeater; its bearer is not there now. Choose a way yourself.',
      ),
    );
    expect(draft().to).not.toHaveProperty('radio', 'QT6CL');
  });

  it('opens each chance down to what was heard', async () => {
    stationAnswers(here());
    writing({ addressee: 'QT6CL', body: 'Insulin comes' });
    renderPiece(<WritePlace />);
    await userEvent.click(await screen.findByRole('button', { name: /^What it rests on/ }));
    const hops = screen.getByRole('list', { name: 'What it rests on' });
    expect(hops).toHaveTextContent(
      'QT0TH-3 → QT6CL80 of 100 (60 to 95)Heard 3 times in two days; 2 times likely; once not, although another road proves that it was sent; not repeated by it while another did, which counts as 3 misses; heard the other way 4 times, which counts for less.Of 3 packets of ours in a day that asked for WIDE1-1 first, 1 was heard repeated by it.',
    );
    expect(
      screen.getByText(
        'Our own tries in 30 days: 2 answered, 1 not. Of these 1 was sent while nothing was heard of them, and counts for little.',
      ),
    ).toBeVisible();
    expect(screen.getByText('Dr Renske Hallow has no licence.')).toBeVisible();
    expect(
      screen.getByText('Its answer is reckoned over up to 2 digipeaters, as their own packets ask.'),
    ).toBeInTheDocument();
    expect(
      screen.getByText(/^That it works at all, .*: 90 of 100, by all that was tried and by how they are heard\.$/),
    ).toBeVisible();
    expect(
      screen.getByText(
        /^Reckoned were 86 of 100; 80 are told.* To QT6CL alone, of 14 sendings, 12 were expected to be proved and 6 were\.$/,
      ),
    ).toBeVisible();
    expect(screen.getByText(/retries included\. Sent up to 4 times\.$/)).toBeVisible();
  });

  it('sends to nobody who was named before: another name takes every address with it', async () => {
    stationAnswers(here());
    renderPiece(<WritePlace />);
    await userEvent.type(await field('Whom'), 'Renske{Enter}');
    await waitFor(() => expect(draft().to).toEqual({ radio: 'QT6CL' }));
    stationAnswers(here(view({ person: null, ways: [] })));
    await userEvent.clear(await field('Whom'));
    await userEvent.type(await field('Whom'), 'somebody else{Enter}');
    await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent('No way to somebody else is known.'));
    expect(written().addressee).toBe('');
    expect(draft().to).toEqual({ radio: '' });
    // And an address that is typed is for nobody who was named.
    await userEvent.type(await field('To'), 'QT1NC');
    expect(draft()).toMatchObject({ whom: '', to: { radio: 'QT1NC' } });
    expect(await field('Whom')).toHaveValue('');
    expect(screen.getByRole('status')).toHaveTextContent('');
    expect(screen.queryByText(/^No way to somebody else/)).toBeNull();
  });

  it('goes on without the ways, where the station cannot tell them', async () => {
    stationAnswers(here(null));
    writing({ addressee: 'QT6CL', body: 'Insulin comes' });
    renderPiece(<WritePlace />);
    expect(await screen.findByText(/^The ways cannot be told now:/, {}, { timeout: 4000 })).toHaveTextContent(
      'You can send all the same.',
    );
    expect(screen.getByRole('button', { name: /^Send by radio/ })).toBeEnabled();
  });

  it('says why there is none, and is silent where it is for everybody', async () => {
    stationAnswers(here(view({ ways: [] })));
    writing({ addressee: 'QT6CL', body: 'Insulin comes' });
    const { unmount } = renderPiece(<WritePlace />);
    const ways = await screen.findByRole('region', { name: 'Ways' });
    expect(await within(ways).findByText('No way is known.')).toBeVisible();
    expect(ways).toHaveTextContent('It is switched off. Switch it on under Bearers.');
    unmount();
    writing({ way: 'mesh', everybody: true, body: 'To all' });
    renderPiece(<WritePlace />);
    await field('Text');
    expect(screen.queryByRole('region', { name: 'Ways' })).toBeNull();
  });
});

it('a text stays what is written by a service and from there to another way, whatever a way was reckoned for', async () => {
  const byService: PlannedWay = {
    ...byRadio,
    send: {
      ...byRadio.send,
      to: 'POSTBX',
      command: { service: 'POSTBX', command: 'mail', values: { to: 'office@ferry.example', text: 'When' } },
    },
  };
  const taken = () => takingWay(byService, 'service', clinic.name, clinic.name, written().body);
  writing({ whom: clinic.name, way: 'radio', body: 'When do you run' });
  useDrafts.getState().change(taken());
  expect(written()).toMatchObject({ way: 'service', body: 'When do you run', values: { to: 'office@ferry.example' } });
  useDrafts.getState().change({ body: 'When do you run again' });
  const asked = stationAnswers(here(view({ ways: [byMesh] })));
  renderPiece(<ProposedWays />);
  await userEvent.click(await screen.findByRole('button', { name: 'Take this way: Mesh, to node VLCLIN' }));
  expect(written()).toMatchObject({ way: 'mesh', body: 'When do you run again' });
  expect(asked.filter(({ path }) => path === '/api/v1/ways')[0]!.body).toMatchObject({ text: 'When do you run again' });
});

describe('a way by the hand of somebody', () => {
  const byOskar: PlannedWay = {
    ...byRadio,
    id: 'radio/QT5LS by oskar',
    title: 'By hand of Oskar Pellmund: Packet radio to QT5LS, over one digipeater',
    strips: [
      { from: 'you', to: 'Oskar Pellmund', chance: 0.9, seen: true },
      { from: 'Oskar Pellmund', to: clinic.name, chance: 0.8, seen: false },
    ],
    send: { ...byRadio.send, to: 'QT5LS', broughtBy: 'Oskar Pellmund' },
  };

  it('puts the name in front of what goes out, says so, and is asked for the one it is for', async () => {
    const asked = stationAnswers({
      ...here(view({ ways: [byOskar] })),
      'POST /api/v1/items': { status: 503, body: { title: 'away', detail: 'away' } },
    });
    renderPiece(<WritePlace />);
    await userEvent.type(await field('Whom'), 'rens{Enter}');
    await waitFor(() => expect(draft()).toMatchObject({ to: { radio: 'QT5LS' }, whom: clinic.name }));
    // A name alone is no text.
    expect(screen.getByRole('button', { name: /^Send by radio/ })).toHaveAttribute('aria-disabled', 'true');
    await userEvent.type(await field('Text'), 'Insulin comes');
    const hand = within(screen.getByRole('group', { name: 'By hand' }));
    expect(hand.getByText('Dr Renske Hallow: Insulin comes')).toBeVisible();
    expect(
      hand.getByText(/^Oskar Pellmund is to bring it to Dr Renske Hallow\. What is proved here ends with/),
    ).toBeVisible();
    // 18 for the name in front, 13 as written.
    expect(screen.getByText(/^31 of 67 characters/)).toBeVisible();
    expect(await screen.findByText('What you have chosen is what is proposed.')).toBeVisible();
    await userEvent.click(
      screen.getByRole('button', { name: /^Send by radio .*, to be brought to Dr Renske Hallow$/ }),
    );
    await waitFor(() =>
      expect(asked.find(({ path }) => path === '/api/v1/items')?.body).toMatchObject({
        addressee: { is: 'address', address: 'QT5LS' },
        content: { is: 'text', body: 'Dr Renske Hallow: Insulin comes' },
      }),
    );
    await waitFor(() =>
      expect(asked.filter(({ path }) => path === '/api/v1/ways').at(-1)!.body).toMatchObject({
        to: clinic.name,
        text: 'Insulin comes',
      }),
    );
    // What was written stays as it was written, and can go to them alone.
    await userEvent.click(hand.getByRole('button', { name: 'Send it to Oskar Pellmund alone' }));
    expect(draft()).toMatchObject({
      body: 'Insulin comes',
      handOver: null,
      whom: 'Oskar Pellmund',
      to: { radio: 'QT5LS' },
    });
    expect(screen.queryByRole('group', { name: 'By hand' })).toBeNull();
  });

  it.each([
    ['another address', { addressee: 'QT1NC' }],
    ['another way', { way: 'mesh' }],
    ['somebody else', { whom: 'Ferry Office' }],
  ])('is none any more for %s', (_, change) => {
    writing({
      whom: clinic.name,
      way: 'radio',
      addressee: 'QT5LS',
      handOver: { by: 'Oskar Pellmund', to: clinic.name },
    });
    expect(written().handOver).not.toBeNull();
    useDrafts.getState().change(change);
    expect(written().handOver).toBeNull();
  });
});

it.each([
  ['', '', ''],
  ['Dr Renske Hallow', '', 'Dr Renske Hallow'],
  ['Dr Renske Hallow', 'QT6CL', 'Dr Renske Hallow'],
  ['Dr Renske Hallow', 'QT1NC', 'QT1NC'],
  ['qt1nc', 'QT1NC', 'qt1nc'],
  ['', 'QT1NC', 'QT1NC'],
])('named %p and addressed %p the ways are asked for %p', (whom, addressee, to) => {
  expect(whomFor({ whom, addressee, way: 'radio', handOver: null }, [clinic as never])).toBe(to);
});

it.each([
  // No way leads to the name of a service; one with a call is heard like anybody.
  ['', 'ROLLCL', ''],
  ['', 'QT1GW-10', 'QT1GW-10'],
  ['Dr Renske Hallow', 'TELTXT', 'Dr Renske Hallow'],
])('of a service, named %p and addressed %p the ways are asked for %p', (whom, addressee, to) => {
  expect(whomFor({ whom, addressee, way: 'service', handOver: null }, [clinic as never])).toBe(to);
});

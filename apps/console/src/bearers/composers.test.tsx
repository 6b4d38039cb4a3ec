import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { BearerView } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../testing/render';
import { boardLink, meshLink, openSettings, person } from '../testing/samples';
import { aboutSeconds } from './about';
import { writing } from '../testing/drafts';
import Mail, { addressList } from './radio-mail/mail';
import MeshText from './mesh-mqtt/mesh-text';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const settings = openSettings;
const mesh = meshLink({ id: 'x' });
const gateway = boardLink({
  id: 'x',
  config: {
    kind: 'radio-mail',
    over: 'radio',
    call: 'QT1RM-12',
    path: [],
    address: 'qt2ar@sound.example',
    user: 'qt2ar',
    password: '',
  },
});

/** Everything below is written in one part of Write. */
const writtenIn = (way: string) => beforeEach(() => writing({ way }));

/** A node of the farm's tag. */
const farm = (number: string) => ({
  bearerId: 'x',
  node: number,
  tag: 'LSFARM',
  name: 'Farm',
  carrier: false,
  latitude: null,
  longitude: null,
  batteryPercent: null,
  snrDb: null,
  hops: 1,
  lastAt: '2026-11-25T08:00:00.000Z',
  distanceKm: null,
  azimuthDeg: null,
});

describe('a text for the mesh', () => {
  writtenIn('mesh');
  it('goes to a node that was heard, and to everybody only when that is said', async () => {
    stationAnswers({
      'GET /api/v1/bearers': { body: [mesh] },
      'GET /api/v1/settings': { body: settings },
      'GET /api/v1/mesh-nodes': {
        body: [farm('01D1-0005')],
      },
    });
    renderPiece(<MeshText />);
    await userEvent.type(await screen.findByRole('textbox', { name: 'Text' }), 'All well');
    // Whom it is for is not said yet: that is nobody, not everybody.
    expect(screen.getByRole('button', { name: /^Send by mesh/ })).toHaveAttribute('aria-disabled', 'true');
    await userEvent.click(screen.getByRole('radio', { name: 'Everybody on the channel' }));
    expect(screen.getByRole('button', { name: 'Send by mesh to everybody on Sound' })).not.toHaveAttribute(
      'aria-disabled',
      'true',
    );
    await userEvent.click(screen.getByRole('radio', { name: 'One node' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'To node' }), 'LSFARM');
    expect(
      screen.getByRole('button', { name: 'Send by mesh to LSFARM on Sound, ask for acknowledgement' }),
    ).not.toHaveAttribute('aria-disabled', 'true');
    await userEvent.type(screen.getByRole('textbox', { name: 'To node' }), 'X');
    expect(screen.getByText('No node LSFARMX was heard')).toBeInTheDocument();
    expect(screen.getByRole('button', { name: /^Send by mesh/ })).toHaveAttribute('aria-disabled', 'true');
    // 18 + 6 + 8 octets; ⌈(8·32 − 36 + 28 + 16)/36⌉·5 = 40: (12 + 4.25 + 8 + 40)·4.096 ms.
    expect(
      screen.getByText(
        '8 of 231 octets · 32 on the air · 0.26 s, and again at each node that repeats it · 31.8 s of the hour left',
      ),
    ).toBeInTheDocument();
  });

  it('goes to a number where two nodes have the same tag', async () => {
    stationAnswers({
      'GET /api/v1/bearers': { body: [mesh] },
      'GET /api/v1/settings': { body: settings },
      'GET /api/v1/mesh-nodes': { body: [farm('01D1-0005'), farm('0BAD-0005')] },
    });
    renderPiece(<MeshText />);
    await userEvent.type(await screen.findByRole('textbox', { name: 'Text' }), 'All well');
    const to = screen.getByRole('textbox', { name: 'To node' });
    await userEvent.type(to, 'lsfarm');
    expect(
      screen.getByText('2 nodes call themselves LSFARM: give the number, 01D1-0005 or 0BAD-0005'),
    ).toBeInTheDocument();
    expect(screen.getByRole('button', { name: /^Send by mesh/ })).toHaveAttribute('aria-disabled', 'true');
    await userEvent.clear(to);
    await userEvent.type(to, '01d10005');
    expect(screen.getByRole('button', { name: /^Send by mesh to LSFARM/ })).not.toHaveAttribute(
      'aria-disabled',
      'true',
    );
  });

  it('on a private channel costs its seal, and says when it has to wait for air time or for a frequency', async () => {
    const kept = { name: 'Relief', key: null, kept: true };
    const usedUp = { ...mesh.duty!, usedMs: 35_900 };
    const config = { ...mesh.config, channels: [kept] } as BearerView['config'];
    stationAnswers({
      'GET /api/v1/bearers': { body: [{ ...mesh, config, duty: usedUp }] },
      'GET /api/v1/settings': { body: settings },
      'GET /api/v1/mesh-nodes': { body: [] },
    });
    const { unmount } = renderPiece(<MeshText />);
    await userEvent.type(await screen.findByRole('textbox', { name: 'Text' }), 'All well');
    expect(screen.getByText(/^8 of 203 octets · 60 on the air, sealed · 0\.39 s/)).toBeInTheDocument();
    expect(screen.getByText('The hour’s air time is used up')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('radio', { name: 'Everybody on the channel' }));
    expect(screen.getByRole('button', { name: 'Send by mesh to everybody on Relief' })).not.toHaveAttribute(
      'aria-disabled',
      'true',
    );
    unmount();
    stationAnswers({
      'GET /api/v1/bearers': { body: [{ ...mesh, config: { ...mesh.config, radio: null }, duty: null }] },
      'GET /api/v1/settings': { body: settings },
      'GET /api/v1/mesh-nodes': { body: [] },
    });
    renderPiece(<MeshText />);
    expect(await screen.findByText('No frequency is set')).toBeInTheDocument();
  });
});

describe('a text for somebody of the list', () => {
  writtenIn('mesh');
  it('goes to the node of that person', async () => {
    const people = [person('Farm', { node: 'LSFARM' })];
    const asked = stationAnswers({
      'GET /api/v1/bearers': { body: [mesh] },
      'GET /api/v1/settings': { body: settings },
      'GET /api/v1/people': { body: people },
      'GET /api/v1/mesh-nodes': { body: [farm('01D1-0005')] },
      'POST /api/v1/items': { status: 422, body: {} },
    });
    renderPiece(<MeshText />);
    await userEvent.click(await screen.findByRole('button', { name: 'To Farm' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Text' }), 'All well');
    await userEvent.click(screen.getByRole('button', { name: /^Send by mesh to LSFARM on Sound/ }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'POST')?.body).toMatchObject({
        addressee: { is: 'person', name: 'Farm' },
        content: { is: 'text', body: 'All well' },
        way: { by: 'texts', bearerId: 'x', channel: 'Sound' },
      }),
    );
  });
});

describe('a mail', () => {
  writtenIn('mail');
  it('is refused an attachment with the time that it would take, and keeps what was written', async () => {
    stationAnswers({ 'GET /api/v1/bearers': { body: [gateway] }, 'GET /api/v1/settings': { body: settings } });
    renderPiece(<Mail />);
    await userEvent.type(await screen.findByRole('textbox', { name: 'To' }), 'office@ferry.example');
    await userEvent.type(screen.getByRole('textbox', { name: 'Text' }), 'Hello');
    const file = new File([new Uint8Array(2_000_000)], 'film.bin');
    await userEvent.upload(screen.getByLabelText('Attachment'), file);
    expect(
      await screen.findByText(/“film.bin” would make it \d+ kB and hold the channel for about \d+ min/),
    ).toBeInTheDocument();
    expect(screen.getByRole('textbox', { name: 'Text' })).toHaveValue('Hello');
    expect(screen.getByRole('button', { name: /^Put in the queue for QT1RM-12/ })).not.toHaveAttribute(
      'aria-disabled',
      'true',
    );
    await userEvent.type(screen.getByRole('textbox', { name: 'To' }), ', nobody');
    expect(screen.getByText('a mail address')).toBeInTheDocument();
    expect(screen.getByRole('button', { name: /^Put in the queue for QT1RM-12/ })).toHaveAttribute(
      'aria-disabled',
      'true',
    );
  });
  it('goes to somebody of the list of people by name, whose address the station knows', async () => {
    const people = [person('Ferry Office', { mail: 'office@ferry.example' }), person('Farm', { node: 'LSFARM' })];
    const asked = stationAnswers({
      'GET /api/v1/bearers': { body: [gateway] },
      'GET /api/v1/settings': { body: settings },
      'GET /api/v1/people': { body: people },
      'POST /api/v1/items': { status: 422, body: {} },
    });
    renderPiece(<Mail />);
    const offered = await screen.findByRole('group', { name: 'People' });
    expect(within(offered).getAllByRole('button')).toHaveLength(1);
    await userEvent.click(within(offered).getByRole('button', { name: 'To Ferry Office' }));
    expect(screen.getByText('office@ferry.example')).toBeInTheDocument();
    await userEvent.type(screen.getByRole('textbox', { name: 'Text' }), 'Hello');
    await userEvent.click(screen.getByRole('button', { name: /^Put in the queue for QT1RM-12/ }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'POST')?.body).toMatchObject({
        addressee: { is: 'person', name: 'Ferry Office' },
        content: { is: 'mail', alsoTo: [] },
        way: { by: 'mail', bearerId: 'x' },
      }),
    );
  });
  it('takes addresses apart and tells times in words', () => {
    expect(addressList(' a@b.example; c@d.example,\n')).toEqual(['a@b.example', 'c@d.example']);
    expect(aboutSeconds(37)).toBe('about 35 s');
    expect(aboutSeconds(200)).toBe('about 3 min');
  });
});

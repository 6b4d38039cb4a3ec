import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { router } from 'expo-router';
import { formatInvitation } from '@tombolo/core';
import type { BearerConfig, BearerView, MeshNodeView } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../testing/render';
import { AT, boardLink, meshLink, modemLink } from '../../testing/samples';
import { stateWords } from '../../bearers/state';
import { BearerCard } from './bearer-card';
import MeshPlace from '../../bearers/mesh-mqtt/mesh-place';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const Mesh = ({ bearer }: { bearer: BearerView }) => (
  <MeshPlace bearer={bearer} config={bearer.config as BearerConfig<'mesh-mqtt'>} />
);

describe('a bearer as a card', () => {
  const at = Date.parse(AT);
  const down = (nextTryAt: string | null) =>
    modemLink({ state: { link: 'down', since: AT, reason: 'connection refused', nextTryAt } });

  it('says whether it is up, since when, why not, and when it is tried again', () => {
    expect(stateWords(modemLink(), at)).toBe('Up since 08:00Z');
    expect(stateWords(down(null), at)).toBe('Down since 08:00Z: connection refused');
    expect(stateWords(down(new Date(at + 60_000).toISOString()), at)).toBe(
      'Down since 08:00Z: connection refused; tried again at 08:01Z',
    );
    expect(stateWords(down(AT), at + 1)).toMatch(/; tried again now$/);
    const silent = modemLink({ state: { link: 'down', since: AT, reason: null, nextTryAt: null } });
    expect(stateWords(silent, at)).toBe('Down since 08:00Z: not connected');
  });

  it('tells where it leads and what the channel carries, and warns when that is too much', async () => {
    stationAnswers({});
    const { rerender } = renderPiece(<BearerCard bearer={modemLink()} />);
    expect(screen.getByText('127.0.0.1:8001')).toBeTruthy();
    expect(screen.getByText('2.0 %')).toBeTruthy();
    expect(screen.getByText('40')).toBeTruthy();
    expect(screen.queryByText('The channel is crowded')).toBeNull();
    // Pure ALOHA carries 1/(2e) = 18 % at its best (common practice: stay below).
    rerender(<></>);
    renderPiece(<BearerCard bearer={modemLink({ load: 0.19, lastHeardAt: null })} />);
    expect(screen.getByText('The channel is crowded')).toBeTruthy();
    expect(screen.getByText('never')).toBeTruthy();
  });

  it('of a board is opened for sessions, by its call and path', async () => {
    stationAnswers({});
    renderPiece(<BearerCard bearer={boardLink()} />);
    expect(screen.getByText('QT1BB-4 via QT0BR-1')).toBeTruthy();
    expect(screen.getByText('Called in sessions, over the modem')).toBeTruthy();
    await userEvent.click(screen.getByRole('link', { name: 'Open sessions: Board Hollinport' }));
    expect(router.navigate).toHaveBeenCalledWith('/bearers/board');
  });

  it('is switched off before it can be removed, and says when that failed', async () => {
    const asked = stationAnswers({
      'PATCH /api/v1/bearers/radio': { body: modemLink({ enabled: false }) },
      'DELETE /api/v1/bearers/radio': {
        status: 409,
        body: { type: 'tombolo:in-use', title: 'It is in use', status: 409, detail: 'A board goes over it.' },
      },
    });
    renderPiece(<BearerCard bearer={modemLink()} />);
    expect(screen.queryByRole('button', { name: 'Remove: Modem' })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Switch off: Modem' }));
    await waitFor(() => expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({ enabled: false }));
    renderPiece(<BearerCard bearer={modemLink({ enabled: false })} />);
    await userEvent.click(screen.getByRole('button', { name: 'Remove: Modem' }));
    await userEvent.click(screen.getByRole('button', { name: 'Remove for good: Modem' }));
    expect(await screen.findByText('That did not work')).toBeTruthy();
    expect(screen.getByText(/A board goes over it/)).toBeTruthy();
  });
});

describe('a mesh from inside', () => {
  const node = (more: Partial<MeshNodeView>): MeshNodeView => ({
    bearerId: 'mesh',
    node: '01D1-0003',
    tag: 'BCNRIG',
    name: 'Ridge',
    carrier: true,
    latitude: 41.3,
    longitude: -43.3,
    batteryPercent: 81,
    snrDb: 6.25,
    hops: 0,
    lastAt: AT,
    distanceKm: 4.04,
    azimuthDeg: 12.4,
    ...more,
  });
  const answers = (nodes: MeshNodeView[], more: Record<string, { status?: number; body: unknown }> = {}) =>
    stationAnswers({ 'GET /api/v1/mesh-nodes': { body: nodes }, ...more });

  it('lists its own nodes with what they told', async () => {
    answers([
      node({}),
      node({
        node: '01D1-0005',
        tag: 'LSFARM',
        carrier: false,
        hops: 2,
        snrDb: null,
        batteryPercent: null,
        distanceKm: null,
      }),
      node({ node: '01D1-0004', tag: 'QUIET', hops: null, snrDb: null, batteryPercent: null, distanceKm: null }),
      node({ node: '01D1-0009', tag: 'ELSEWH', bearerId: 'another' }),
    ]);
    renderPiece(<Mesh bearer={meshLink()} />);
    const list = await screen.findByRole('list', { name: 'Nodes' });
    await waitFor(() => expect(within(list).getAllByRole('listitem')).toHaveLength(3));
    expect(within(within(list).getAllByRole('listitem')[0]!).getByText('Ridge, carrier')).toBeTruthy();
    expect(within(list).getByText('heard direct · SNR 6.3 dB · battery 81 % · 4.0 km NNE (12°)')).toBeTruthy();
    expect(within(list).getByText('2 hops')).toBeTruthy();
    expect(within(list).getByText('nothing else told yet')).toBeTruthy();
    expect(screen.queryByText('ELSEWH')).toBeNull();
  });

  it('teaches when nobody was heard: when the first ones are to be expected', async () => {
    answers([]);
    renderPiece(<Mesh bearer={meshLink()} />);
    expect(await screen.findByText('Nobody heard yet')).toBeTruthy();
    expect(screen.getByText(/expected by (25 Nov (2026 )?)?08:20Z/)).toBeTruthy();
  });

  it('tells what a text costs and what is left of the hour, and sets the node only as far as it can be', async () => {
    const asked = answers([node({})], { 'PATCH /api/v1/bearers/mesh': { body: meshLink() } });
    renderPiece(<Mesh bearer={meshLink()} />);
    expect(screen.getByText('868.3 MHz, SF9, 125 kHz, 4/5')).toBeTruthy();
    // 74 and 102 octets by the designer's guide: 20 and 28 blocks of five symbols behind the first eight.
    expect(screen.getByText(/on the air for 0\.45 s in the clear, 0\.57 s sealed/)).toBeTruthy();
    expect(screen.getByText('4.2 s on the air in the last hour, 31.8 of 36.0 s left in 868.0–868.6 MHz')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Change how the node is set' }));
    const frequency = screen.getByRole('textbox', { name: 'Frequency, MHz' });
    await userEvent.clear(frequency);
    await userEvent.type(frequency, '144.39');
    await userEvent.click(screen.getByRole('button', { name: 'Set the node' }));
    expect(await screen.findByText(/the channel must lie inside a licence-free band/)).toBeTruthy();
    expect(asked.some(({ method }) => method === 'PATCH')).toBe(false);
    await userEvent.clear(frequency);
    await userEvent.type(frequency, '869,525');
    await userEvent.click(screen.getByRole('button', { name: 'SF11' }));
    expect(screen.getByText(/reach: (far and slow|farthest)/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Set the node' }));
    await waitFor(() => expect(asked.some(({ method }) => method === 'PATCH')).toBe(true));
    expect(asked.find(({ method }) => method === 'PATCH')!.body).toMatchObject({
      config: {
        radio: { frequencyHz: 869_525_000, spreadingFactor: 11, bandwidthHz: 125_000, codingRate: 1 },
        hopLimit: 4,
        announceMin: 20,
      },
    });
  });

  it('without a frequency opens its setting and says that nothing is sent', async () => {
    answers([]);
    const config = { ...meshLink().config, radio: null } as never;
    renderPiece(<Mesh bearer={meshLink({ config, duty: null })} />);
    expect(await screen.findByText('No frequency is set')).toBeTruthy();
    expect(screen.getByRole('textbox', { name: 'Frequency, MHz' })).toHaveValue('');
  });

  it('makes a private channel with a key of its own, and shows its invitation', async () => {
    const asked = answers([], {
      'PATCH /api/v1/bearers/mesh': { body: meshLink() },
    });
    renderPiece(<Mesh bearer={meshLink()} />);
    expect(screen.getByText('open: everybody reads it')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Make a private channel' }));
    await waitFor(() => expect(asked.some(({ method }) => method !== 'GET')).toBe(true));
    const sent = asked.find(({ method }) => method !== 'GET')!.body as {
      config: { channels: { name: string; key: string | null }[] };
    };
    expect(sent.config.channels).toHaveLength(2);
    expect(sent.config.channels[0]).toEqual({ name: 'Sound', key: null, kept: false });
    // 256 bits, as AES-256 needs.
    expect(atob(sent.config.channels[1]!.key!)).toHaveLength(32);
  });

  it('forgets a channel when it is asked twice, and never the last one', async () => {
    const asked = answers([], { 'PATCH /api/v1/bearers/mesh': { body: meshLink() } });
    const two = [
      { name: 'Sound', key: null, kept: false },
      { name: 'Shelter', key: null, kept: true },
    ];
    const { unmount } = renderPiece(
      <Mesh bearer={meshLink({ config: { ...meshLink().config, channels: two } as never })} />,
    );
    await userEvent.click(screen.getByRole('button', { name: 'Forget this channel: Shelter' }));
    expect(asked.some(({ method }) => method === 'PATCH')).toBe(false);
    await userEvent.click(screen.getByRole('button', { name: 'Forget this channel for good: Shelter' }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'PATCH')?.body).toMatchObject({
        config: { channels: [{ name: 'Sound' }] },
      }),
    );
    unmount();
    renderPiece(<Mesh bearer={meshLink()} />);
    expect(screen.queryByRole('button', { name: /^Forget this channel/ })).toBeNull();
  });

  it('shows an invitation as a picture and as a line, with the caution of a private one', async () => {
    const channel = { name: 'Shelter', key: btoa('k'.repeat(32)) };
    // The key is not in the list; it is asked for.
    const asked = answers([], {
      'POST /api/v1/bearers/mesh/invitations': { status: 201, body: { line: formatInvitation(channel) } },
    });
    const kept = { name: 'Shelter', key: null, kept: true };
    const config = { ...meshLink().config, channels: [{ name: 'Sound', key: null, kept: false }, kept] } as never;
    renderPiece(<Mesh bearer={meshLink({ config })} />);
    await userEvent.click(screen.getByRole('button', { name: 'Show the invitation: Shelter' }));
    expect(await screen.findByRole('img', { name: 'Invitation to Shelter as a QR code' })).toBeTruthy();
    expect(asked.find(({ method }) => method === 'POST')!.body).toEqual({ channel: 'Shelter' });
    expect(screen.getByText(formatInvitation(channel))).toBeTruthy();
    expect(screen.getByText(/Hand it over in person, never over an amateur band/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Hide the invitation: Shelter' }));
    expect(screen.queryByRole('img')).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Show the invitation: Sound' }));
    expect(screen.queryByText(/Hand it over in person/)).toBeNull();
  });

  it('joins by a line that was handed over, and refuses what is none or known', async () => {
    const asked = answers([], { 'PATCH /api/v1/bearers/mesh': { body: meshLink() } });
    renderPiece(<Mesh bearer={meshLink()} />);
    const field = screen.getByRole('textbox', { name: 'Invitation you got' });
    await userEvent.type(field, 'hello');
    expect(field).toHaveAttribute('aria-invalid', 'true');
    expect(screen.getByRole('button', { name: 'Join the channel' })).toHaveAttribute('aria-disabled', 'true');
    await userEvent.clear(field);
    await userEvent.click(field);
    await userEvent.paste(formatInvitation({ name: 'Sound', key: null }));
    expect(await screen.findByText(/^You are on a channel of that name/)).toBeTruthy();
    await userEvent.clear(field);
    await userEvent.click(field);
    await userEvent.paste(formatInvitation({ name: 'Shelter', key: btoa('s'.repeat(32)) }));
    await userEvent.click(await screen.findByRole('button', { name: 'Join Shelter' }));
    await waitFor(() => expect(field).toHaveValue(''));
    expect(asked.find(({ method }) => method === 'PATCH')?.body).toMatchObject({
      config: { channels: [{ name: 'Sound' }, { name: 'Shelter', key: btoa('s'.repeat(32)) }] },
    });
  });
});

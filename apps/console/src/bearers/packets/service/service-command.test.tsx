import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { JoinedService, KeptService } from '@tombolo/contract';
import { router } from 'expo-router';
import { useDrafts } from '../../../drafts/drafts';
import { writing, written } from '../../../testing/drafts';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { AT, arrivedItem, modemLink, openSettings, person } from '../../../testing/samples';
import { DESK, PHONE } from '../../../testing/services';
import { offersFor } from './known';
import ServiceCommand from './service-command';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const settings = { ...openSettings, position: { latitude: 41.269, longitude: -43.285 }, voiceMHz: 146.52 };
const answers = (
  services: readonly KeptService[] = [DESK, PHONE],
  joined: readonly JoinedService[] = [],
  more: Record<string, { status?: number; body: unknown }> = {},
) =>
  stationAnswers({
    'GET /api/v1/settings': { body: settings },
    'GET /api/v1/stations': { body: [] },
    'GET /api/v1/people': { body: [person('Ferry Office', { phone: '+00 555 0142', mail: 'office@ferry.example' })] },
    'GET /api/v1/bearers': { body: [modemLink()] },
    'GET /api/v1/services': { body: services },
    'GET /api/v1/services/joined': { body: joined },
    'POST /api/v1/items': { status: 201, body: arrivedItem({ direction: 'out' }) },
    ...more,
  });
const press = (name: string | RegExp) =>
  screen.findByRole('button', { name }).then((button) => userEvent.click(button));
const type = (name: string, words: string) => userEvent.type(screen.getByRole('textbox', { name }), words);
const posted = (asked: ReturnType<typeof stationAnswers>) => asked.find(({ method }) => method === 'POST')?.body;

beforeEach(() => writing({ way: 'service' }));

describe('a command to a service', () => {
  it('is put together of what is known, shown as it goes out, and sent by its parts', async () => {
    const asked = answers();
    renderPiece(<ServiceCommand />);
    await press('Phone text');
    expect(screen.getByText('TELTXT: ‹Phone number›: ‹Text›')).toBeInTheDocument();
    await press('Ferry Office');
    await type('Text', 'When do you run?');
    expect(screen.getByText('TELTXT: 005550142: When do you run?')).toBeInTheDocument();
    expect(screen.getByText('16 of 56 octets with what goes before it')).toBeInTheDocument();
    expect(screen.getByText(/^27 of 67 octets · \d\.\d\d s on the air · it says/)).toBeInTheDocument();
    expect(screen.getByText('Write first.')).toBeInTheDocument();
    await press(/^Send by radio over/);
    await waitFor(() =>
      expect(posted(asked)).toMatchObject({
        addressee: { is: 'address', address: 'TELTXT' },
        content: {
          is: 'command',
          command: 'text',
          values: { to: '005550142', text: 'When do you run?' },
          positionFirst: false,
        },
        way: { by: 'packets', askAcknowledgement: true },
      }),
    );
    await waitFor(() => expect(router.navigate).toHaveBeenCalledWith(`/traffic/${arrivedItem().id}`));
  });

  it('that its service would refuse is refused here, with what is missing', async () => {
    const asked = answers();
    renderPiece(<ServiceCommand />);
    await press('Desk');
    await type('Reference', 'hs014');
    expect(screen.getByText('a reference such as HS-014')).toBeInTheDocument();
    await userEvent.clear(screen.getByRole('textbox', { name: 'Reference' }));
    await type('Reference', 'hs-014{Enter}');
    // Enter leads on to the next field.
    expect(screen.getByRole('textbox', { name: 'Frequency' })).toHaveFocus();
    await press('SSB');
    await press(/^Send by/);
    expect(screen.getByText('Frequency: it is missing.')).toBeInTheDocument();
    expect(posted(asked)).toBeUndefined();
    await press('146.52, where we listen');
    expect(screen.getByText('ASKDSK: SPOT AT HS-014 ON 146.52 BY SSB')).toBeInTheDocument();
    await press(/^Send by/);
    await waitFor(() =>
      expect(posted(asked)).toMatchObject({ content: { values: { place: 'HS-014', mhz: '146.52', mode: 'SSB' } } }),
    );
  });

  it('that uses where we are sends that first, unless somebody says otherwise or nobody knows', async () => {
    const asked = answers();
    renderPiece(<ServiceCommand />);
    await press('Desk');
    await press('Mail');
    expect(screen.getByRole('checkbox', { name: 'Send our position first' })).toBeChecked();
    await press('Ferry Office');
    await type('Text', 'All well');
    await press('Send our position, then this');
    await waitFor(() => expect(posted(asked)).toMatchObject({ content: { positionFirst: true } }));
    writing({ way: 'service', addressee: 'ASKDSK', command: 'mail', values: { to: 'a@b.example' }, body: 'x' });
    await userEvent.click(await screen.findByRole('checkbox', { name: 'Send our position first' }));
    expect(screen.getByRole('button', { name: /^Send by/ })).toBeInTheDocument();
  });

  it('is kept as a draft with what was entered, and its text goes along to another way', async () => {
    answers();
    renderPiece(<ServiceCommand />);
    await press('Phone text');
    await press('Ferry Office');
    await type('Text', 'Hello');
    expect(written()).toMatchObject({ addressee: 'TELTXT', values: { to: '+00 555 0142' }, body: 'Hello' });
    useDrafts.getState().change({ way: 'mesh' });
    expect(written()).toMatchObject({ addressee: '', body: 'Hello' });
  });

  it('ends what was begun with one press', async () => {
    const leave = { address: 'ASKDSK', leave: 'mail', title: 'Leave', values: { to: 'a@b.example' }, since: AT };
    answers([DESK], [leave]);
    renderPiece(<ServiceCommand />);
    await press('Leave: a@b.example');
    expect(written()).toMatchObject({ addressee: 'ASKDSK', command: 'mail', values: { to: 'a@b.example' } });
  });

  it('says where services come from while there is none', async () => {
    answers([]);
    renderPiece(<ServiceCommand />);
    expect(await screen.findByText('No service is known yet')).toBeInTheDocument();
    expect(screen.getByRole('link', { name: 'Go to Services' })).toHaveAttribute('href', '/tools/services');
  });
});

describe('what is offered for a field', () => {
  it('is what its service names, what is known here, and nothing that stands there', () => {
    const known = { settings, people: [person('Ferry', { call: 'QT4LB' })] };
    const of = (kind: 'call' | 'place' | 'mode', typed = '', offers: string[] = []) =>
      offersFor({ kind, offers }, known, typed).map(({ value }) => value);
    expect(of('mode', '', ['SSB', 'CW'])).toEqual(['SSB', 'CW']);
    expect(of('mode', 'ssb', ['SSB', 'CW'])).toEqual([]);
    expect(of('call')).toEqual(['QT2AR-7', 'QT4LB']);
    expect(of('call', 'fer')).toEqual(['QT4LB']);
    expect(of('place')).toEqual([expect.stringMatching(/^[A-R]{2}\d\d/)]);
  });
});

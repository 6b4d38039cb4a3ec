import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { OwnObject } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { AT, modemLink, openSettings } from '../../../testing/samples';
import { ObjectsPlace } from './objects-place';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const SHELTER: OwnObject = {
  id: '6f1f2d0a-4a52-4a6e-9c0e-2f5d1f0b7a11',
  form: 'object',
  name: 'SHELTER',
  latitude: 41.269,
  longitude: -43.285,
  symbol: '\\z',
  comment: '62 people',
  bearerId: 'radio',
  path: ['WIDE1-1'],
  everyMin: 10,
  revision: 3,
  live: true,
  takenBy: null,
  changedAt: AT,
  times: 2,
  lastAt: AT,
  stopped: null,
};
const answers = (objects: OwnObject[], more = {}) =>
  stationAnswers({
    'GET /api/v1/settings': { body: openSettings },
    'GET /api/v1/bearers': { body: [modemLink()] },
    'GET /api/v1/position': {
      body: { source: { by: 'typed' }, position: { latitude: 41.3, longitude: -43.3 }, receiver: null },
    },
    'GET /api/v1/own-objects': { body: objects },
    ...more,
  });
const written = (asked: ReturnType<typeof answers>) => asked.filter(({ method }) => method !== 'GET');

describe('things on the map', () => {
  it('are put there as written, with each complaint at its field', async () => {
    // The station has it already by somebody else.
    const refusal = { type: 'tombolo:reported', title: 'QT1NC reports that name', status: 409, detail: 'Agree first.' };
    const asked = answers([]);
    const fetching = globalThis.fetch;
    globalThis.fetch = (async (path: string, init?: RequestInit) => {
      const answer = await fetching('/api/v1/settings');
      if (init?.method !== 'PUT') return fetching(path, init);
      const body = JSON.parse(String(init.body)) as { takeOver: boolean };
      asked.push({ path, method: 'PUT', body });
      return body.takeOver
        ? { ...answer, json: async () => SHELTER }
        : { ok: false, status: 409, json: async () => refusal };
    }) as unknown as typeof fetch;
    renderPiece(<ObjectsPlace />);
    expect(await screen.findByText('Nothing of ours is on the map')).toBeInTheDocument();
    await userEvent.click(await screen.findByRole('button', { name: 'Put something on the map' }));
    await userEvent.type(screen.getByLabelText('Name'), 'SHELTER TEN');
    await userEvent.click(screen.getByRole('button', { name: 'Put SHELTER TEN on the map' }));
    expect(screen.getByText('no position in any of the usual forms')).toBeInTheDocument();
    expect(screen.getByText(/9/, { selector: '[id$=note] *, [id$=note]' })).toBeInTheDocument();
    expect(written(asked)).toEqual([]);
    await userEvent.clear(screen.getByLabelText('Name'));
    await userEvent.type(screen.getByLabelText('Name'), 'SHELTER');
    await userEvent.click(await screen.findByRole('button', { name: 'Where we are' }));
    await userEvent.click(screen.getByRole('radio', { name: /^shelter/i }));
    await userEvent.click(screen.getByRole('button', { name: 'Put SHELTER on the map' }));
    await userEvent.click(await screen.findByRole('button', { name: 'We agreed: take it over' }));
    await waitFor(() => expect(written(asked)).toHaveLength(2));
    expect(written(asked)[1]!.body).toMatchObject({
      name: 'SHELTER',
      latitude: 41.3,
      symbol: '\\z',
      revision: null,
      takeOver: true,
    });
  });

  it('are moved from the state that was shown, and taken off at two presses', async () => {
    const asked = answers([SHELTER], {
      [`PUT /api/v1/own-objects/${SHELTER.id}`]: { body: SHELTER },
      [`POST /api/v1/own-objects/${SHELTER.id}/end`]: { body: { ...SHELTER, live: false } },
    });
    renderPiece(<ObjectsPlace />);
    const row = within(await screen.findByRole('listitem'));
    expect(row.getByText(/sent 2 times/)).toBeInTheDocument();
    await userEvent.click(row.getByRole('button', { name: 'Move or change: SHELTER' }));
    await userEvent.click(screen.getByRole('button', { name: 'Say so by radio' }));
    await waitFor(() => expect(written(asked)[0]!.body).toMatchObject({ revision: 3, latitude: 41.269 }));
    await userEvent.click(row.getByRole('button', { name: 'Take it off the map: SHELTER' }));
    await userEvent.click(row.getByRole('button', { name: 'Take it off the map for good: SHELTER' }));
    await waitFor(() => expect(written(asked)[1]!.body).toEqual({ revision: 3 }));
  });

  it('say why they do not go out, and who took them over', async () => {
    answers([
      { ...SHELTER, stopped: 'Everything is held.' },
      {
        ...SHELTER,
        id: crypto.randomUUID(),
        name: 'FLOOD',
        live: false,
        takenBy: 'QT1NC',
        stopped: 'QT1NC reports it now: ours is not sent any more.',
      },
    ]);
    renderPiece(<ObjectsPlace />);
    expect(await screen.findByText('Everything is held.')).toBeInTheDocument();
    expect(screen.getByText(/^QT1NC reports it now/)).toBeInTheDocument();
    expect(screen.getByRole('button', { name: 'Take it back: FLOOD' })).toBeInTheDocument();
  });
});

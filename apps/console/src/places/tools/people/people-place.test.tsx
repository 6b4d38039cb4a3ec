import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { person } from '../../../testing/samples';
import { PeoplePlace } from './people-place';

const ferry = person('Ferry Office', { phone: '+00 555 0142', mail: 'office@ferry.example' });
afterEach(() => jest.restoreAllMocks());

const enter = async (label: string, text: string) => {
  const field = screen.getByRole('textbox', { name: label });
  await userEvent.clear(field);
  await userEvent.type(field, text);
};

describe('people', () => {
  it('are added with all addresses; what is none is said at its field, and nothing is sent', async () => {
    const id = crypto.randomUUID();
    jest.spyOn(crypto, 'randomUUID').mockReturnValueOnce(id);
    const asked = stationAnswers({
      'GET /api/v1/people': { body: [ferry] },
      [`PUT /api/v1/people/${id}`]: { body: ferry },
    });
    renderPiece(<PeoplePlace />);
    expect(await screen.findByText('+00 555 0142 · office@ferry.example · no licence')).toBeInTheDocument();
    const puts = () => asked.filter(({ method }) => method === 'PUT');
    await enter('Name', 'Dr Hallow');
    const add = screen.getByRole('button', { name: 'Add to the list' });
    await userEvent.click(add);
    expect(await screen.findByText('at least one address: nobody is reached without')).toBeInTheDocument();
    await enter('Mail', 'hallow@clinic.example, hallow');
    await enter('Call sign', 'QT5VC-99');
    await userEvent.click(add);
    expect(await screen.findByText('a mail address')).toBeInTheDocument();
    expect(screen.getByRole('textbox', { name: 'Call sign' })).toHaveAttribute('aria-invalid', 'true');
    expect(puts()).toEqual([]);
    await enter('Mail', 'hallow@clinic.example; desk@clinic.example');
    await enter('Call sign', 'qt5vc');
    // More than one line becomes one.
    await enter('What was agreed', 'Only{enter}by night');
    await userEvent.click(add);
    await waitFor(() => expect(puts()).toHaveLength(1));
    expect(puts()[0]!.body).toEqual({
      name: 'Dr Hallow',
      licensed: false,
      agreement: 'Only by night',
      addresses: [
        { sort: 'call', address: 'QT5VC' },
        { sort: 'mail', address: 'hallow@clinic.example' },
        { sort: 'mail', address: 'desk@clinic.example' },
      ],
      broughtBy: [],
    });
    await waitFor(() => expect(screen.getByRole('textbox', { name: 'Name' })).toHaveValue(''));
  });

  it('are changed where they stand, with what was known already', async () => {
    const asked = stationAnswers({
      'GET /api/v1/people': { body: [ferry] },
      [`PUT /api/v1/people/${ferry.id}`]: { body: ferry },
    });
    renderPiece(<PeoplePlace />);
    await userEvent.click(await screen.findByRole('button', { name: 'Change: Ferry Office' }));
    expect(screen.getByRole('textbox', { name: 'Phone' })).toHaveValue('+00 555 0142');
    await enter('Mesh node', 'ferry');
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'PUT')?.body).toEqual({
        name: 'Ferry Office',
        licensed: false,
        agreement: '',
        addresses: [...ferry.addresses, { sort: 'node', address: 'FERRY' }],
        broughtBy: [],
      }),
    );
    expect(await screen.findByText('Add somebody')).toBeInTheDocument();
  });

  it('are brought something by others of the list, each with the time it takes', async () => {
    const farm = person('Oskar Pellmund', { node: 'LSFARM' });
    const brought = { ...ferry, broughtBy: [{ person: farm.id, aboutMin: 40 }] };
    const asked = stationAnswers({
      'GET /api/v1/people': { body: [brought, farm] },
      [`PUT /api/v1/people/${ferry.id}`]: { body: brought },
    });
    renderPiece(<PeoplePlace />);
    expect(await screen.findByText('Brought to them by hand, by Oskar Pellmund 40 min')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Change: Ferry Office' }));
    const label = 'Brought to them by hand, by';
    expect(screen.getByRole('textbox', { name: label })).toHaveValue('Oskar Pellmund 40');
    // Not by themselves, nor by a stranger.
    await enter(label, 'Ferry Office 5');
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    expect(await screen.findByText('nobody of the list is called “Ferry Office 5”')).toBeInTheDocument();
    await enter(label, 'oskar pellmund 2000');
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    expect(await screen.findByText('a day at most')).toBeInTheDocument();
    expect(asked.some(({ method }) => method === 'PUT')).toBe(false);
    await enter(label, 'oskar pellmund 25');
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'PUT')?.body).toMatchObject({
        broughtBy: [{ person: farm.id, aboutMin: 25 }],
      }),
    );
  });

  it('are removed, and put back by one press as they were', async () => {
    const asked = stationAnswers({
      'GET /api/v1/people': { body: [ferry] },
      [`DELETE /api/v1/people/${ferry.id}`]: { status: 204, body: null },
      [`PUT /api/v1/people/${ferry.id}`]: { body: ferry },
    });
    renderPiece(<PeoplePlace />);
    await userEvent.click(await screen.findByRole('button', { name: 'Remove: Ferry Office' }));
    await userEvent.click(await screen.findByRole('button', { name: 'Put back: Ferry Office' }));
    const { id: _id, ...whole } = ferry;
    await waitFor(() => expect(asked.find(({ method }) => method === 'PUT')?.body).toEqual(whole));
  });
});

import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { BearerConfig } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../testing/render';
import { boardLink, meshLink, modemLink } from '../../testing/samples';
import { bearerForm, changedConfig, formOfBearer } from './bearer-form';
import { BearerCard } from './bearer-card';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const MAIL: BearerConfig = {
  kind: 'radio-mail',
  over: 'radio',
  call: 'QT1RM-12',
  path: ['QT0BR-1'],
  address: 'qt2ar@sound.example',
  user: 'qt2ar',
  password: '',
};

describe('a bearer that is set otherwise', () => {
  it.each([
    ['modem', modemLink()],
    ['board', boardLink()],
    ['mesh', meshLink()],
    ['mail gateway', { name: 'Mail', config: MAIL }],
  ])('of the kind %s is what it was when nothing is changed', (_, { name, config }) => {
    const read = bearerForm.parse(formOfBearer({ name, config }));
    expect(read.texts.name).toBe(name);
    expect(changedConfig(config, read)).toEqual(config);
  });

  it('keeps what the form does not show, and says beside the field what cannot be', async () => {
    const mesh = meshLink();
    const asked = stationAnswers({
      'GET /api/v1/bearers': { body: [mesh] },
      [`PATCH /api/v1/bearers/${mesh.id}`]: { body: mesh },
    });
    renderPiece(<BearerCard bearer={mesh} />);
    await userEvent.click(screen.getByRole('button', { name: `Change: ${mesh.name}` }));
    const port = screen.getByRole('textbox', { name: 'TCP port' });
    await userEvent.clear(port);
    await userEvent.type(port, '99999');
    await userEvent.click(screen.getByRole('button', { name: 'Save the bearer' }));
    await waitFor(() => expect(port).toHaveAttribute('aria-invalid', 'true'));
    expect(asked.filter(({ method }) => method === 'PATCH')).toEqual([]);
    await userEvent.clear(port);
    await userEvent.type(port, '1884');
    await userEvent.click(screen.getByRole('button', { name: 'Save the bearer' }));
    await waitFor(() => expect(screen.queryByRole('button', { name: 'Save the bearer' })).toBeNull());
    expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({
      name: mesh.name,
      config: { ...mesh.config, port: 1884 },
    });
  });
});

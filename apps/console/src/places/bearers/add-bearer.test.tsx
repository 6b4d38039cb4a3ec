import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { newBearer } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../testing/render';
import { boardLink } from '../../testing/samples';
import { AddBearer } from './add-bearer';

const modem = boardLink({
  id: 'radio',
  name: 'Radio',
  config: {
    kind: 'kiss-tcp',
    host: '127.0.0.1',
    port: 8001,
    modemPort: 0,
    frequencyMHz: null,
    txDelayMs: 300,
    persistencePercent: 25,
    slotMs: 100,
    path: ['WIDE1-1', 'WIDE2-1'],
    confirms: false,
  },
});
const open = async (kind: string) => {
  renderPiece(<AddBearer />);
  await userEvent.click(screen.getByRole('button', { name: 'Add a bearer' }));
  await userEvent.click(screen.getByRole('radio', { name: kind }));
};
const enter = async (label: string, text: string) => {
  const field = screen.getByRole('textbox', { name: label });
  await userEvent.clear(field);
  await userEvent.type(field, text);
};

describe('a new bearer', () => {
  it('to a board goes over the modem that is there', async () => {
    const asked = stationAnswers({
      'GET /api/v1/bearers': { body: [modem] },
      'POST /api/v1/bearers': { status: 201, body: boardLink() },
    });
    await open('A bulletin board');
    await screen.findByText('Called over Radio.');
    await enter('Name', 'Board');
    await enter('Call sign with SSID', 'qt1bb-4');
    await enter('Digipeaters on the way', 'qt0br-1');
    await userEvent.click(screen.getByRole('button', { name: 'Add it' }));
    await waitFor(() => expect(asked.some(({ method }) => method === 'POST')).toBe(true));
    const body = newBearer.parse(asked.find(({ method }) => method === 'POST')!.body);
    expect(body).toMatchObject({
      name: 'Board',
      config: { kind: 'board', over: 'radio', call: 'QT1BB-4', path: ['QT0BR-1'] },
    });
  });

  it('to a mail gateway waits for a modem', async () => {
    stationAnswers({ 'GET /api/v1/bearers': { body: [] } });
    await open('A gateway for radio mail');
    expect(await screen.findByText('No modem yet')).toBeInTheDocument();
    expect(screen.getByRole('button', { name: 'Add it' })).toHaveAttribute('aria-disabled', 'true');
  });

  it('to a mesh says beside the field what cannot be, and keeps what was typed', async () => {
    const asked = stationAnswers({ 'GET /api/v1/bearers': { body: [] } });
    await open('A mesh, by its node over MQTT');
    await enter('Name', 'Mesh');
    await enter('Number of our node', 'xyz');
    await enter('Tag of our node', 'SKSCHL');
    await enter('Name of our node', 'x'.repeat(41));
    await userEvent.click(screen.getByRole('button', { name: 'Add and connect' }));
    expect(await screen.findByText('at most 40 octets of UTF-8')).toBeInTheDocument();
    expect(await screen.findByText('a node’s number has eight digits')).toBeInTheDocument();
    expect(screen.getByRole('textbox', { name: 'Number of our node' })).toHaveValue('xyz');
    expect(asked.some(({ method }) => method === 'POST')).toBe(false);
  });
});

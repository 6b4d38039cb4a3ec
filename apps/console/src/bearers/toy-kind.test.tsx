import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import '@tombolo/contract/testing/udp-pair';
import { renderPiece, stationAnswers } from '../testing/render';
import { modemLink, openSettings } from '../testing/samples';
import { BearerCard } from '../places/bearers/bearer-card';
import { AddBearer } from '../places/bearers/add-bearer';
import { WritePlace } from '../places/write/write-place';
import type { ConsoleKind } from './kind';
import { packets } from './packets/composer';
import { registerConsoleKind } from './registry';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

/** All that the console needs for a new kind, beside the descriptor of the contract. */
const udpPair: ConsoleKind<'udp-pair'> = {
  id: 'udp-pair',
  title: 'A station across the table',
  hint: 'Two on one machine.',
  words: 'Over UDP, ',
  where: ({ ownPort, otherPort }) => `from ${ownPort} to ${otherPort}`,
  form: {
    fields: [
      { name: 'own', key: 'ownPort', label: 'Own port' },
      { name: 'other', key: 'otherPort', label: 'Port of the other', initial: '9002' },
    ],
    config: ({ texts }) => ({ kind: 'udp-pair', ownPort: Number(texts.own), otherPort: Number(texts.other) }),
  },
  composer: packets,
};
registerConsoleKind(udpPair);

const link = modemLink({ id: 'toy', name: 'Table', config: { kind: 'udp-pair', ownPort: 9001, otherPort: 9002 } });

describe('a kind of bearer that is registered and nothing more', () => {
  it('has its form, which says beside the field what cannot be', async () => {
    const asked = stationAnswers({
      'GET /api/v1/bearers': { body: [] },
      'POST /api/v1/bearers': { status: 201, body: link },
    });
    renderPiece(<AddBearer />);
    await userEvent.click(screen.getByRole('button', { name: 'Add a bearer' }));
    await userEvent.click(screen.getByRole('radio', { name: udpPair.title }));
    expect(screen.getByText(/at most 67 octets.*at best: delivered.*needs a licence/)).toBeTruthy();
    expect(screen.getByRole('textbox', { name: 'Port of the other' })).toHaveValue('9002');
    await userEvent.type(screen.getByRole('textbox', { name: 'Name' }), 'Table');
    await userEvent.type(screen.getByRole('textbox', { name: 'Own port' }), '0');
    await userEvent.click(screen.getByRole('button', { name: 'Add and connect' }));
    expect(await screen.findByText(/too small/i)).toBeTruthy();
    expect(asked.filter(({ method }) => method === 'POST')).toEqual([]);
    await userEvent.clear(screen.getByRole('textbox', { name: 'Own port' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Own port' }), '9001');
    await userEvent.click(screen.getByRole('button', { name: 'Add and connect' }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'POST')?.body).toEqual({
        name: 'Table',
        config: { kind: 'udp-pair', ownPort: 9001, otherPort: 9002 },
      }),
    );
  });

  it('has its card', () => {
    stationAnswers({ 'GET /api/v1/bearers': { body: [link] } });
    renderPiece(<BearerCard bearer={link} />);
    expect(screen.getByText('from 9001 to 9002')).toBeTruthy();
    expect(screen.getByText('Waiting to go out')).toBeTruthy();
  });

  it('is written for in the part of Write that it shares', async () => {
    stationAnswers({
      'GET /api/v1/bearers': { body: [link] },
      'GET /api/v1/settings': { body: openSettings },
      'GET /api/v1/stations': { body: [] },
    });
    renderPiece(<WritePlace />);
    expect(await screen.findByRole('textbox', { name: /To/ })).toBeTruthy();
    // The parts that all have that carry packets, each once.
    const ways = within(screen.getByRole('group', { name: 'Way' })).getAllByRole('button');
    expect(ways.map((way) => way.getAttribute('aria-label'))).toEqual(['Packet radio', 'By a service']);
  });
});

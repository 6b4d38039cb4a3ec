import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { EvidenceRecord, TransmissionView } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../testing/render';
import { AT } from '../../testing/samples';
import { ByItselfLog } from './by-itself-log';
import { transmissionWords } from './by-itself-words';

const evidence = (kind: EvidenceRecord['kind'], more: Partial<EvidenceRecord> = {}): EvidenceRecord => ({
  id: `${kind}/${more.by ?? ''}`,
  kind,
  at: AT,
  legId: 'x',
  attempt: 1,
  bearer: 'vhf',
  by: null,
  via: [],
  raw: null,
  note: null,
  expectBy: null,
  packetId: null,
  ...more,
});
const transmission = (records: EvidenceRecord[], more: Partial<TransmissionView> = {}): TransmissionView => ({
  id: '3f1d3c6e-6f0e-4e0e-9b0a-0d9a3c2b1a00',
  role: 'answer',
  bearerId: 'vhf',
  from: 'QT2AR-7',
  to: 'QT1NC',
  path: [],
  createdAt: AT,
  nextAt: null,
  held: null,
  tries: 1,
  triesMade: 1,
  evidence: records,
  ...more,
});

describe('what was sent by itself, in words', () => {
  const sent = evidence('sent');
  it.each<[string, TransmissionView]>([
    ['Waits for its turn', transmission([evidence('queued')], { nextAt: AT })],
    ['Held: it came from a backup', transmission([], { nextAt: AT, held: 'it came from a backup' })],
    ['Sent; not heard repeated', transmission([sent])],
    [
      'Sent; heard repeated by QT0TH-3, somebody who did not sign',
      transmission([
        sent,
        evidence('relayed', { by: 'QT0TH-3' }),
        evidence('relayed'),
        evidence('relayed', { by: 'QT0TH-3' }),
      ]),
    ],
    ['Left out: it could not go out in time', transmission([evidence('left out')])],
    ['Not sent: no path', transmission([evidence('refused', { note: 'no path' })])],
    ['It may or may not have gone out', transmission([evidence('interrupted')])],
  ])('%s', (words, view) => expect(transmissionWords(view)).toBe(words));
});

describe('the list of it', () => {
  it('says when it is empty what would be entered', async () => {
    stationAnswers({
      'GET /api/v1/transmissions': { body: { rows: [], next: null } },
      'GET /api/v1/bearers': { body: [] },
    });
    renderPiece(<ByItselfLog openPacket={jest.fn()} />);
    expect(await screen.findByText('Nothing of the kind was sent')).toBeTruthy();
  });

  it('gives each with why it went out, and its evidence by a press', async () => {
    const opened = jest.fn();
    const records = [
      evidence('queued', { note: 'our position, which QT1NC asked everybody for' }),
      evidence('sent'),
      evidence('relayed', { by: 'QT0TH-3', packetId: '7' }),
    ];
    stationAnswers({
      'GET /api/v1/transmissions': { body: { rows: [transmission(records)], next: null } },
      'GET /api/v1/bearers': { body: [] },
    });
    renderPiece(<ByItselfLog openPacket={opened} />);
    const row = await screen.findByRole('button', {
      name: /^Our position, which QT1NC asked everybody for/,
    });
    expect(row).toHaveTextContent('Sent; heard repeated by QT0TH-3 · vhf');
    expect(row).toHaveAttribute('aria-expanded', 'false');
    await userEvent.click(row);
    const list = screen.getByRole('list', { name: 'Evidence' });
    expect(within(list).getAllByRole('listitem')).toHaveLength(3);
    await userEvent.click(within(list).getByRole('link', { name: /Open the packet/ }));
    expect(opened).toHaveBeenCalledWith('7');
  });
});

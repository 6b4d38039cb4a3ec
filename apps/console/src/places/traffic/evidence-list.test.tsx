import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { EvidenceRecord } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../testing/render';
import { AT, modemLink } from '../../testing/samples';
import { EvidenceList, evidenceWords, markOf } from './evidence-list';

let id = 0;
const record = (kind: EvidenceRecord['kind'], more: Partial<EvidenceRecord> = {}): EvidenceRecord => ({
  id: String(++id),
  kind,
  at: AT,
  legId: 'leg',
  attempt: null,
  bearer: 'radio',
  by: 'QT4LB-8',
  via: [],
  raw: null,
  note: null,
  expectBy: null,
  packetId: null,
  ...more,
});

describe('a record of evidence in words', () => {
  it.each([
    ['queued', false, 'Put in the queue'],
    ['intended', false, 'Try 2: about to be handed to the modem'],
    ['sent', false, 'Try 2: sent'],
    ['interrupted', false, 'Try 2: interrupted'],
    ['not taken', false, 'Try 2: the modem did not take it'],
    ['relayed', false, 'Heard repeated by QT4LB-8'],
    ['relayed', true, 'It came over QT0BR-1, QT0TH-3'],
    ['accepted', false, 'QT4LB-8 took it'],
    ['handed on', false, 'QT4LB-8 handed it on'],
    ['delivered', false, 'QT4LB-8 acknowledged'],
    ['delivered', true, 'Arrived from QT4LB-8'],
    ['answered', false, 'QT4LB-8 answered'],
    ['answered', true, 'We answered'],
    ['refused', false, 'QT4LB-8 refused it'],
    ['expired', false, 'Tries used up'],
    ['cancelled', false, 'Cancelled'],
    ['acknowledged', true, 'We acknowledged it'],
    ['rejected', true, 'We refused it'],
    ['heard again', true, 'Heard again'],
  ] as const)('%s, arrived %s', (kind, arrived, words) => {
    expect(evidenceWords(record(kind, { attempt: 2, via: ['QT0BR-1', 'QT0TH-3'] }), arrived)).toBe(words);
  });
  it.each([
    ['queued', false, 'planned'],
    ['interrupted', false, 'planned'],
    ['sent', false, 'sent'],
    ['relayed', false, 'heard'],
    ['accepted', false, 'accepted'],
    ['delivered', false, 'acknowledged'],
    ['refused', false, 'broken'],
    // Nobody acknowledged what came to us: it is here, and what we answer is sent.
    ['delivered', true, 'accepted'],
    ['answered', true, 'sent'],
    ['acknowledged', false, 'sent'],
    ['acknowledged', true, 'sent'],
    ['rejected', true, 'sent'],
  ] as const)('%s, arrived %s, is marked no further than it proves: %s', (kind, arrived, mark) =>
    expect(markOf(record(kind), arrived)).toBe(mark),
  );
  it('never names somebody whom nobody named', () => {
    expect(evidenceWords(record('refused', { by: null }), false)).toBe('somebody refused it');
  });
});

describe('the evidence of an item', () => {
  const list = (evidence: EvidenceRecord[], arrived = false, arrivedLegs?: string[]) => {
    stationAnswers({});
    const opened: string[] = [];
    renderPiece(
      <EvidenceList
        evidence={evidence}
        arrived={arrived}
        arrivedLegs={arrivedLegs}
        bearers={[modemLink()]}
        openPacket={(packetId) => opened.push(packetId)}
      />,
    );
    return opened;
  };
  const rows = () => within(screen.getByRole('list', { name: 'Evidence' })).getAllByRole('listitem');

  it('leaves out an intent once its try is known, and keeps one that hangs', () => {
    list([
      record('intended', { attempt: 1 }),
      record('sent', { attempt: 1 }),
      record('intended', { attempt: 2 }),
      record('interrupted', { attempt: 2 }),
      record('intended', { attempt: 3 }),
      // Another leg with the same number of a try does not close it.
      record('sent', { attempt: 3, legId: 'other' }),
    ]);
    expect(rows().map((row) => within(row).getByText(/^Try/).textContent)).toEqual([
      'Try 1: sent',
      'Try 2: interrupted',
      'Try 3: about to be handed to the modem',
      'Try 3: sent',
    ]);
  });
  it('tells nodes of a mesh from digipeaters, and what waits for air time', () => {
    const hops = [{ call: null, certain: true }];
    list([
      record('waits', { note: 'the air time of this hour is used up' }),
      record('relayed', { by: null, via: [], road: { how: 'mesh', hops, open: [], gate: null } }),
      record('relayed', { by: null, via: [], road: { how: 'relayed', hops, open: [], gate: null } }),
    ]);
    expect(screen.getByText('Waits for air time')).toBeTruthy();
    expect(screen.getByText('Heard repeated by a node of the mesh')).toBeTruthy();
    expect(screen.getByText('Heard repeated by a digipeater that did not sign')).toBeTruthy();
  });
  it('names the bearer, the note and the raw line, and opens the packet', async () => {
    const opened = list([
      record('delivered', { note: 'number 12', raw: 'QT4LB-8>APRS::QT2AR-7  :ack12', packetId: '77' }),
      record('sent', { attempt: 1, bearer: 'long gone' }),
    ]);
    expect(screen.getByText('Modem · number 12')).toBeTruthy();
    expect(screen.getByText('long gone')).toBeTruthy();
    expect(screen.getByText(/^QT4LB-8>APRS::QT2AR-7 +:ack12$/)).toBeTruthy();
    await userEvent.click(screen.getByRole('link', { name: 'Open the packet: QT4LB-8 acknowledged' }));
    expect(opened).toEqual(['77']);
    expect(screen.getAllByRole('link')).toHaveLength(1);
  });
  it('tells what came from what was handed on', () => {
    list([record('delivered', { legId: 'in' }), record('delivered', { legId: 'on', by: 'LSFARM' })], true, ['in']);
    expect(rows()[0]!.textContent).toContain('Arrived from QT4LB-8');
    expect(rows()[1]!.textContent).toContain('LSFARM acknowledged');
  });
  it('shows what would turn or hide the text', () => {
    list([record('refused', { raw: 'rej\u202e12' })]);
    expect(screen.getByText('rej⟨U+202E⟩12')).toBeTruthy();
  });
});

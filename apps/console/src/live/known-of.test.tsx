import type { TacticalView } from '@tombolo/contract';
import { screen } from '@testing-library/react';
import { renderPiece, stationAnswers } from '../testing/render';
import { heardStation, person } from '../testing/samples';
import { KnownOf } from './known-of';

const tactical = (name: string, call: string, since: string, until: string | null): TacticalView => ({
  id: crypto.randomUUID(),
  name,
  call,
  since: `2026-11-26T${since}:00.000Z`,
  until: until === null ? null : `2026-11-26T${until}:00.000Z`,
});
const answers = {
  'GET /api/v1/stations': {
    body: [heardStation({ call: 'QT1NC', note: 'Speaks slowly' }), heardStation({ call: 'QT6CL', note: ' ' })],
  },
  'GET /api/v1/people': {
    body: [{ ...person('Ferry Office', { phone: '+00 555 0142' }), agreement: 'Texts at any hour' }],
  },
  'GET /api/v1/tactical-names': {
    body: [tactical('Shelter 2', 'QT6CL', '10:00', null), tactical('Shelter 2', 'QT1NC', '06:00', '10:00')],
  },
};

describe('what is known of somebody', () => {
  it('is shown where the call, name or address is, in whatever letters, and nothing where nothing is', async () => {
    stationAnswers(answers);
    renderPiece(
      <>
        <KnownOf who=" qt1nc" />
        <KnownOf who="QT6CL" />
        <KnownOf who="QT9XX" />
        <KnownOf who="" />
        <KnownOf who="+005550142" />
      </>,
    );
    expect(await screen.findByText('Your note on QT1NC: Speaks slowly')).toBeInTheDocument();
    expect(await screen.findByText('QT6CL is Shelter 2')).toBeInTheDocument();
    expect(await screen.findByText('Agreed with Ferry Office: Texts at any hour')).toBeInTheDocument();
    expect(screen.getAllByText(/^Your note|^Agreed|Shelter/)).toHaveLength(3);
  });

  it('is, of what passed, the name that the station had then', async () => {
    stationAnswers(answers);
    renderPiece(<KnownOf who="QT1NC" at="2026-11-26T09:59:59.000Z" />);
    expect(await screen.findByText('QT1NC was Shelter 2 then')).toBeInTheDocument();
  });
});

import { screen, within } from '@testing-library/react';
import type { MeasuredView } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { factorWords, Measured } from './measured';

const shown = (view: MeasuredView) => {
  stationAnswers({ 'GET /api/v1/reach/measured': { body: view } });
  renderPiece(<Measured />);
};

describe('what was heard against what was reckoned', () => {
  it('is told station by station, with the fit as what it is', async () => {
    shown({
      placed: true,
      stations: [
        { call: 'QT0TH-3', distanceKm: 14.6, marginDb: 17, heard: 86, missed: 2 },
        { call: 'QT6CL', distanceKm: 21, marginDb: -8, heard: 0, missed: 9 },
      ],
      factor: { db: -6.2, lowDb: -9.4, highDb: -3 },
    });
    const list = await screen.findByRole('list', { name: 'Heard against reckoned' });
    expect(
      within(list)
        .getAllByRole('listitem')
        .map((line) => line.textContent),
    ).toEqual([
      'QT0TH-315 km, 17 dB in hand: 99 of 100 reckoned; heard 86, missed 2.',
      'QT6CL21 km, −8 dB in hand: 8 of 100 reckoned; heard 0, missed 9.',
    ]);
    expect(
      screen.getByText(/^6 dB less arrives than was reckoned: a fit over 2 stations, between −9 and −3 dB/),
    ).toBeVisible();
  });

  it('says when nothing can be said', async () => {
    shown({ placed: false, stations: [], factor: null });
    expect(await screen.findByText(/^Where this station is, is not known/)).toBeVisible();
    expect(screen.queryByRole('list')).toBeNull();
    expect(factorWords({ db: 0.4, lowDb: -2, highDb: 3 }, 1)).toMatch(
      /^As was reckoned: a fit over one station gives 0\.4 dB/,
    );
  });
});

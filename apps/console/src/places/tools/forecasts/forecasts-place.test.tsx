import { screen, within } from '@testing-library/react';
import type { CalibrationView, PredictionsView } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { ForecastsPlace } from './forecasts-place';
import { ReliabilityPicture } from './reliability-picture';

const of = (name: string, count: number, error = 0.02, errorByChance = 0.05): CalibrationView => ({
  name,
  count,
  bins: count === 0 ? [] : [{ count, predicted: 0.8, happened: 0.75, low: 0.6, high: 0.86 }],
  brier: 0.18,
  parts: { reliability: 0.01, resolution: 0.02, uncertainty: 0.19 },
  error,
  errorByChance,
});
const shown = async (view: PredictionsView) => {
  stationAnswers({ 'GET /api/v1/predictions': { body: view } });
  renderPiece(<ForecastsPlace />);
  await screen.findByRole('heading', { name: 'Forecasts' });
};

describe('the forecasts', () => {
  it('are judged where there are enough, by bearer and by what they rested on', async () => {
    await shown({
      all: of('all', 60),
      byBearer: [of('mesh', 40, 0.2), of('packet radio', 20)],
      byBasis: [of('evidence', 60), of('map', 0)],
      corrections: [
        {
          name: 'mesh',
          examples: [
            { reckoned: 0.5, told: 0.31 },
            { reckoned: 0.9, told: 0.7 },
          ],
          theirs: [
            { to: 'QT8PH-12', count: 30, expected: 27.4, happened: 9 },
            { to: 'SKSVLC', count: 6, expected: 1.2, happened: 5 },
          ],
        },
      ],
      open: 3,
      enough: 30,
    });
    expect(await screen.findByText('All: 60 sendings')).toBeVisible();
    expect(screen.getAllByText(/^No more off than chance alone makes it: 2.0 of 100/)).toHaveLength(2);
    // One that boasts is named.
    expect(screen.getByText('Mesh: 40 sendings').nextSibling).toHaveTextContent(/^Off by 20.0 of 100.*with care\.$/);
    expect(screen.getByText('Packet radio: 20 sendings').nextSibling).toHaveTextContent(
      'Too few to judge: it takes 30.',
    );
    expect(screen.getAllByText(/^New forecasts are corrected/).map((words) => words.textContent)).toEqual([
      'New forecasts are corrected by how these came out, those of late more than older ones: of 100, 50 is told as 31, 90 is told as 70.',
    ]);
    const otherwise = screen.getByRole('list', { name: 'Addressees whose mesh came out otherwise' });
    expect(
      within(otherwise)
        .getAllByRole('listitem')
        .map(({ textContent }) => textContent),
    ).toEqual([
      'QT8PH-12: of 30 sendings, 27 were expected to be proved and 9 were.',
      'SKSVLC: of 6 sendings, 1 was expected to be proved and 5 were.',
    ]);
    expect(screen.getByText('Guesses from the map: 0 sendings')).toBeVisible();
  });

  it('say when there are none yet, and when they cannot be told', async () => {
    await shown({ all: of('all', 0), byBearer: [], byBasis: [], corrections: [], open: 2, enough: 30 });
    expect(await screen.findByText(/2 sendings are still open\.$/)).toBeVisible();
  });

  it('are drawn with their intervals, and told in words', () => {
    const { container } = renderPiece(<ReliabilityPicture bins={of('all', 60).bins} width={320} />);
    expect(screen.getByRole('img')).toHaveAccessibleName(
      'Predicted and proved: of 60 that were given 80 of 100, 75 of 100 were proved',
    );
    expect(container.querySelectorAll('circle')).toHaveLength(1);
  });
});

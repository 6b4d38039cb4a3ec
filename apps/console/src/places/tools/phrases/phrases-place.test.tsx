import { fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { USUAL_DECKS } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { openSettings } from '../../../testing/samples';
import { PhrasesPlace } from './phrases-place';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const press = (name: string) => screen.findByRole('button', { name }).then((button) => userEvent.click(button));
const fill = (name: string, value: string) =>
  fireEvent.change(screen.getByRole('textbox', { name }), { target: { value } });

describe('abbreviations', () => {
  it('are one a line, and kept when each has two sides and stands there once', async () => {
    const asked = stationAnswers({
      'GET /api/v1/settings': { body: openSettings },
      'PATCH /api/v1/settings': { body: openSettings },
    });
    renderPiece(<PhrasesPlace />);
    const field = await screen.findByRole('textbox', { name: 'Abbreviations' });
    expect(field).toHaveDisplayValue(/^message = msg$/m);
    fill('Abbreviations', 'boat = bt\n\nlifeboat');
    await press('Save the abbreviations');
    expect(screen.getByText(/^line 2: both sides of the equals sign/)).toBeInTheDocument();
    fill('Abbreviations', 'boat = bt\nBoat = b');
    expect(screen.getByText(/^line 2: “Boat” stands there twice/)).toBeInTheDocument();
    expect(asked.some(({ method }) => method === 'PATCH')).toBe(false);
    fill('Abbreviations', 'boat = bt\n\n lifeboat = lfbt ');
    await press('Save the abbreviations');
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({
        abbreviations: [
          { long: 'boat', short: 'bt' },
          { long: 'lifeboat', short: 'lfbt' },
        ],
      }),
    );
  });
});

describe('decks of phrases', () => {
  it('begin with the usual ones, are changed, and kept when each line is right', async () => {
    const asked = stationAnswers({
      'GET /api/v1/settings': { body: openSettings },
      'PATCH /api/v1/settings': { body: openSettings },
    });
    renderPiece(<PhrasesPlace />);
    await press('Add a deck');
    const n = USUAL_DECKS.length + 1;
    fill(`Phrases of deck ${n}`, 'Ready\n\nAt {nowhere}');
    await press('Save the phrases');
    expect(screen.getByText('a name')).toBeInTheDocument();
    expect(screen.getByText(/^line 2: nothing is known as \{nowhere\}/)).toBeInTheDocument();
    expect(asked.some(({ method }) => method === 'PATCH')).toBe(false);
    fill(`Name of deck ${n}`, 'Boats');
    fill(`Phrases of deck ${n}`, 'Ready\nAt {locator}');
    await press('Remove the deck: Where');
    await press('Put back: Where');
    await press('Remove the deck: Net');
    await press('Save the phrases');
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({
        phraseDecks: [
          ...USUAL_DECKS.filter(({ name }) => name !== 'Net'),
          { name: 'Boats', phrases: ['Ready', 'At {locator}'] },
        ],
      }),
    );
  });
});

import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Settings } from '@tombolo/contract';
import { useState } from 'react';
import { renderPiece, stationAnswers } from '../testing/render';
import { heardStation, openSettings } from '../testing/samples';
import { PhraseChips } from './phrase-chips';
import { byUse, phraseKnown, placeInWords, usePhraseUse } from './use-phrases';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const position = { latitude: 41.269, longitude: -43.285 };
const school = heardStation({
  call: ';SCHOOL',
  kind: 'object',
  name: 'SCHOOL   ',
  latitude: 41.26,
  longitude: -43.285,
});
function Text({ begin = '' }: { begin?: string }) {
  const [text, change] = useState(begin);
  return (
    <>
      <p>{`Text: ${text}`}</p>
      <PhraseChips text={text} change={change} />
    </>
  );
}
const shown = async (settings: Partial<Settings> = {}, begin?: string) => {
  stationAnswers({
    'GET /api/v1/settings': { body: { ...openSettings, position, ...settings } },
    'GET /api/v1/stations': { body: [school] },
  });
  renderPiece(<Text begin={begin} />);
  await screen.findByRole('group', { name: 'Phrases' });
};
const press = (name: string) => userEvent.click(screen.getByRole('button', { name }));
beforeEach(() => usePhraseUse.setState({ deck: '', uses: {} }));

describe('phrases', () => {
  it('are put in one press each, with blanks by themselves and what is known put in', async () => {
    await shown();
    await press('Add “All well”');
    await press('Where');
    await press('Add “We are {place}”');
    expect(screen.getByText('Text: All well We are 1.0 km N of SCHOOL')).toBeInTheDocument();
    // The deck is remembered, and what was used comes first.
    expect(usePhraseUse.getState()).toMatchObject({ deck: 'Where', uses: { 'All well': 1, 'We are {place}': 1 } });
    expect(screen.getAllByRole('button', { name: /^Add “/ })[0]).toHaveAccessibleName('Add “We are {place}”');
  });

  it('ask for their number, and put in nothing without', async () => {
    await shown();
    await press('Shelter');
    await press('Add “Short of {number} blankets”');
    const field = screen.getByRole('textbox', { name: 'Number for “Short of {number} blankets”' });
    await press('Put it in');
    expect(screen.getByText('Text:')).toBeInTheDocument();
    await userEvent.type(field, '40');
    await press('Put it in');
    expect(screen.getByText('Text: Short of 40 blankets')).toBeInTheDocument();
    expect(screen.queryByRole('textbox')).toBeNull();
  });

  it('say what is not known instead of sending braces', async () => {
    await shown({ position: null });
    await press('Where');
    await press('Add “At {locator}”');
    expect(screen.getByText('“At {locator}”: it is not known where this station is.')).toBeInTheDocument();
    expect(screen.getByText('Text:')).toBeInTheDocument();
  });

  it('are those of the station where it has its own, and the text is cleared with one press', async () => {
    await shown({ phraseDecks: [{ name: 'Boats', phrases: ['{net} ready'] }] }, 'Old words');
    expect(screen.queryByRole('group', { name: 'Deck of phrases' })).toBeNull();
    await press('Clear the text');
    await press('Add “{net} ready”');
    expect(screen.getByText('Text: Boats ready')).toBeInTheDocument();
  });
});

describe('what phrases know', () => {
  it('is where we are by what stays on the map', () => {
    expect(placeInWords(position, [school], 'km')).toBe('1.0 km N of SCHOOL');
    expect(placeInWords({ latitude: 41.2601, longitude: -43.285 }, [school], 'km')).toBe('at SCHOOL');
    const moving = heardStation({ call: 'QT4LB-8', kind: 'station', latitude: 41.269, longitude: -43.285 });
    expect(placeInWords(position, [moving, { ...school, live: false }], 'km')).toBeNull();
    expect(placeInWords(null, [school], 'km')).toBeNull();
    expect(
      phraseKnown({ ...openSettings, position }, [], { unit: 'km', deck: 'Net', nowMs: Date.UTC(2026, 10, 25, 14, 5) }),
    ).toMatchObject({ call: 'QT2AR-7', time: '1405Z', net: 'Net', place: null, position: '41.2690 -43.2850' });
  });

  it('puts what was used most first, and leaves the rest in order', () => {
    expect(byUse(['a', 'b', 'constructor', 'c'], { c: 2, b: 1 })).toEqual(['c', 'b', 'a', 'constructor']);
  });
});

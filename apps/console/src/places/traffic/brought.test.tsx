import { screen } from '@testing-library/react';
import { splitText } from '@tombolo/core';
import { renderPiece, stationAnswers } from '../../testing/render';
import { arrivedItem, person } from '../../testing/samples';
import { Brought, broughtTo } from './brought';

const people = [person('Oskar Pellmund', { call: 'QT5LS' }), person('Ferry Office', { mail: 'office@ferry.example' })];
const ours = (body: string, addressee = 'QT5LS') => arrivedItem({ direction: 'out', kind: 'text', addressee, body });

describe('a text that somebody is to bring', () => {
  it('says how far the evidence goes', async () => {
    stationAnswers({ 'GET /api/v1/people': { body: people } });
    renderPiece(<Brought item={ours('Ferry Office: When do you run again')} />);
    expect(
      await screen.findByText(
        /^It is for Ferry Office and goes to QT5LS first.* ask for a word when Ferry Office has it\.$/,
      ),
    ).toBeVisible();
  });

  it('is told by its first words, also where these stand in a part', () => {
    expect(broughtTo(ours('Ferry Office: soon?'), people)).toBe('Ferry Office');
    const parts = splitText(`Ferry Office: ${'soon '.repeat(30)}`, 'a', 67);
    expect(parts.ok && broughtTo(ours(parts.value[0]!), people)).toBe('Ferry Office');
  });

  it('is none that is for whoever got it, or came from somebody', () => {
    expect(broughtTo(ours('Oskar Pellmund: soon?'), people)).toBeNull();
    expect(broughtTo(ours('Is the Ferry Office: open?'), people)).toBeNull();
    expect(broughtTo({ ...ours('Ferry Office: soon?'), direction: 'in' }, people)).toBeNull();
    expect(broughtTo(ours('Ferry Office: soon?'), [])).toBeNull();
  });
});

import { screen } from '@testing-library/react';
import { renderPiece, stationAnswers } from '../testing/render';
import { heardStation } from '../testing/samples';
import { NoteOf } from './note-of';

describe('the note on a station', () => {
  it('is shown where its call is, in whatever letters, and nothing where there is none', async () => {
    stationAnswers({
      'GET /api/v1/stations': {
        body: [heardStation({ call: 'QT1NC', note: 'Speaks slowly' }), heardStation({ call: 'QT6CL', note: ' ' })],
      },
    });
    renderPiece(
      <>
        <NoteOf call=" qt1nc" />
        <NoteOf call="QT6CL" />
        <NoteOf call="QT9XX" />
      </>,
    );
    expect(await screen.findByText('Your note on QT1NC: Speaks slowly')).toBeInTheDocument();
    expect(screen.getAllByText(/^Your note/)).toHaveLength(1);
  });
});

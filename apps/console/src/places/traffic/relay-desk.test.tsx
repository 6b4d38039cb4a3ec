import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ItemDetail, RelayProposal } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../testing/render';
import { RelayDesk } from './relay-desk';

const item = { id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c3d' } as ItemDetail;
const way = (more: Partial<RelayProposal>): RelayProposal => ({
  words: 'Text the phone of Ferry Office by TELTXT',
  bearerId: 'radio',
  to: 'TELTXT',
  person: 'Ferry Office',
  text: 'When? /LSFARM',
  octets: 13,
  most: 56,
  needsRelease: true,
  refused: null,
  reason: 'The text names Ferry Office.',
  planned: null,
  ...more,
});
const path = `/api/v1/items/${item.id}/relays`;

describe('the relay desk', () => {
  it('takes two taps, and says what the second one releases', async () => {
    const asked = stationAnswers({
      [`GET ${path}`]: { body: [way({})] },
      [`POST ${path}`]: {
        status: 409,
        body: {
          type: 'tombolo:relayed-already',
          title: 'It was handed on already',
          status: 409,
          detail: 'It went to TELTXT at 09:00Z. Nothing more was sent.',
        },
      },
    });
    renderPiece(<RelayDesk item={item} />);
    await userEvent.click(screen.getByRole('button', { name: 'Hand it on …' }));
    await userEvent.click(await screen.findByRole('button', { name: 'Text the phone of Ferry Office by TELTXT' }));
    expect(screen.getByText('Third-party traffic')).toBeInTheDocument();
    await userEvent.click(
      screen.getByRole('button', { name: 'Release it and text the phone of Ferry Office by TELTXT' }),
    );
    expect(await screen.findByText('It went to TELTXT at 09:00Z. Nothing more was sent.')).toBeInTheDocument();
    expect(asked.at(-1)).toMatchObject({
      method: 'POST',
      body: { to: 'TELTXT', released: true, text: 'When? /LSFARM' },
    });
  });

  it('tells of each way how surely it gets there, and sends by the path that it told', async () => {
    const asked = stationAnswers({
      [`GET ${path}`]: {
        body: [
          way({ needsRelease: false, planned: { path: ['WIDE1-1'], takenBy: 'TELTXT', arrives: 0.84, proven: 0.71 } }),
          way({ words: 'To QT1NC', to: 'QT1NC', planned: { path: [], takenBy: 'QT1NC', arrives: 0.4, proven: null } }),
          way({ words: 'To everybody', to: 'Open', planned: null, reason: 'For all who listen there.' }),
        ],
      },
      [`POST ${path}`]: { status: 200, body: {} },
    });
    renderPiece(<RelayDesk item={item} />);
    await userEvent.click(screen.getByRole('button', { name: 'Hand it on …' }));
    const told = 'Over WIDE1-1: 84 of 100 that TELTXT gets it, 71 that it is proved.';
    expect(await screen.findByText(`The text names Ferry Office. ${told}`)).toBeInTheDocument();
    expect(
      screen.getByText(/Without a digipeater: 40 of 100 that QT1NC gets it, and nothing would prove it\.$/),
    ).toBeInTheDocument();
    expect(screen.getByText('For all who listen there.')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Text the phone of Ferry Office by TELTXT' }));
    expect(screen.getByText(told)).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Text the phone of Ferry Office by TELTXT' }));
    expect(asked.at(-1)).toMatchObject({ method: 'POST', body: { to: 'TELTXT', path: ['WIDE1-1'] } });
  });

  it('holds a text that became too long, and shows which rule forbids a way', async () => {
    stationAnswers({
      [`GET ${path}`]: {
        body: [
          way({ most: 14, needsRelease: false }),
          way({ words: 'To node A', to: 'A', refused: 'A had it before' }),
        ],
      },
    });
    renderPiece(<RelayDesk item={item} />);
    await userEvent.click(screen.getByRole('button', { name: 'Hand it on …' }));
    expect(await screen.findByText('Not this way: A had it before')).toBeInTheDocument();
    expect(screen.getByRole('button', { name: 'To node A' })).toHaveAttribute('aria-disabled', 'true');
    await userEvent.click(screen.getByRole('button', { name: 'Text the phone of Ferry Office by TELTXT' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'What is sent' }), ' and more');
    expect(screen.getByText('22 of 14 octets: shorten it')).toBeInTheDocument();
    expect(screen.getByRole('button', { name: 'Text the phone of Ferry Office by TELTXT' })).toHaveAttribute(
      'aria-disabled',
      'true',
    );
  });
});

import { act, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import RadioText from '../bearers/packets/radio-text';
import { useConnection } from '../live/feed';
import { writing } from '../testing/drafts';
import { renderPiece, stationAnswers } from '../testing/render';
import { modemLink, openSettings } from '../testing/samples';
import { MayBeOld } from './may-be-old';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const there = {
  'GET /api/v1/settings': { body: openSettings },
  'GET /api/v1/stations': { body: [] },
  'GET /api/v1/people': { body: [] },
  'GET /api/v1/tactical-names': { body: [] },
  'GET /api/v1/bearers': { body: [modemLink()] },
};
const failing = { status: 500, body: { type: 'tombolo:status', title: 'It failed', status: 500, detail: 'Full.' } };
const lookAgain = () => act(() => void document.dispatchEvent(new Event('visibilitychange', { bubbles: true })));
const OLD = 'Some of what you see could not be loaded again, and may be old.';

beforeEach(() => {
  useConnection.setState({ connected: true });
  writing();
});

describe('what cannot be loaded again', () => {
  it('stays on the page with what is written on it, is said to be old, and is loaded when that is wished', async () => {
    stationAnswers(there);
    renderPiece(
      <>
        <MayBeOld />
        <RadioText />
      </>,
    );
    const text = await screen.findByRole('textbox', { name: 'Text' });
    await userEvent.type(text, 'Half a sentence');
    expect(screen.queryByText(OLD)).toBeNull();

    stationAnswers({ ...there, 'GET /api/v1/settings': failing });
    lookAgain();
    expect(await screen.findByText(OLD)).toBeTruthy();
    expect(screen.getByRole('textbox', { name: 'Text' })).toBe(text);
    expect(text).toHaveValue('Half a sentence');

    stationAnswers(there);
    await userEvent.click(screen.getByRole('button', { name: 'Load again' }));
    await waitFor(() => expect(screen.queryByText(OLD)).toBeNull());
    expect(screen.getByRole('textbox', { name: 'Text' })).toBe(text);
  });

  it('is told by the page itself where nothing was there before', async () => {
    stationAnswers({ ...there, 'GET /api/v1/settings': failing });
    renderPiece(
      <>
        <MayBeOld />
        <RadioText />
      </>,
    );
    expect(await screen.findByText('Full.')).toBeTruthy();
    expect(screen.queryByText(OLD)).toBeNull();
  });
});

import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { router } from 'expo-router';
import { useDrafts } from '../../drafts/drafts';
import { written, writing } from '../../testing/drafts';
import { renderPiece, stationAnswers } from '../../testing/render';
import { arrivedItem, meshLink, modemLink, openSettings } from '../../testing/samples';
import { WritePlace } from './write-place';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));
const navigate = router.navigate as jest.Mock;

const HERE = {
  'GET /api/v1/settings': { body: openSettings },
  'GET /api/v1/stations': { body: [] },
  'GET /api/v1/people': { body: [] },
  'GET /api/v1/mesh-nodes': { body: [] },
  'GET /api/v1/bearers': { body: [modemLink(), meshLink()] },
};
const field = (name: string) => screen.findByRole('textbox', { name });
beforeEach(() => {
  navigate.mockClear();
  writing();
});

describe('what is being written', () => {
  it('is listed beside what is shown, opened by its address, thrown away and put back', async () => {
    stationAnswers(HERE);
    writing({ addressee: 'QT1NC', body: 'The first' });
    const first = useDrafts.getState().open;
    useDrafts.getState().startAnew();
    const shown = jest.fn();
    renderPiece(<WritePlace shown={shown} />);
    await userEvent.type(await field('Text'), 'The second');
    await waitFor(() => expect(shown).toHaveBeenLastCalledWith(written().id));
    const list = screen.getByRole('list', { name: 'Drafts' });
    const row = within(list).getByRole('link', { name: /^To QT1NC: The first/ });
    expect(row).toHaveAttribute('href', `/write?draft=${first}`);
    await userEvent.click(within(list).getByRole('button', { name: /^Throw away/ }));
    expect(screen.queryByRole('list', { name: 'Drafts' })).toBeNull();
    expect(await field('Text')).toHaveValue('The second');
    await userEvent.click(screen.getByRole('button', { name: 'Put it back' }));
    expect(await field('Text')).toHaveValue('The first');
    expect(await field('To')).toHaveValue('QT1NC');
    expect(shown).toHaveBeenLastCalledWith(first);
  });

  it('is what the address says; where that is gone, the address follows what is shown', async () => {
    stationAnswers(HERE);
    writing({ body: 'The first' });
    const first = useDrafts.getState().open;
    useDrafts.getState().startAnew();
    renderPiece(<WritePlace wanted={first} />);
    expect(await field('Text')).toHaveValue('The first');
    const shown = jest.fn();
    renderPiece(<WritePlace wanted="sent-long-ago" shown={shown} />);
    await waitFor(() => expect(shown).toHaveBeenCalledWith(first));
  });

  it('is taken back by Undo, and another is begun without losing it', async () => {
    stationAnswers(HERE);
    renderPiece(<WritePlace />);
    await userEvent.type(await field('To'), 'QT1NC');
    await userEvent.type(await field('Text'), 'Hello');
    await userEvent.click(screen.getByRole('button', { name: 'Mesh' }));
    expect(await field('To node')).toHaveValue('');
    expect(await field('Text')).toHaveValue('Hello');
    await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
    expect(await field('To')).toHaveValue('QT1NC');
    const first = written().id;
    await userEvent.click(screen.getByRole('button', { name: 'Write another' }));
    expect(navigate).toHaveBeenCalledWith(`/write?draft=${written().id}`);
    expect(written()).toMatchObject({ body: '', addressee: '' });
    expect(useDrafts.getState().drafts[first]).toMatchObject({ body: 'Hello' });
  });

  it('goes out under another number when it was changed after a try that failed', async () => {
    const replies: Parameters<typeof stationAnswers>[0] = {
      ...HERE,
      'POST /api/v1/items': { status: 503, body: { title: 'Database is down' } },
    };
    const asked = stationAnswers(replies);
    writing({ addressee: 'QT1NC', body: 'Come to the pier' });
    renderPiece(<WritePlace />);
    const send = async () => userEvent.click(await screen.findByRole('button', { name: /^Send by/ }));
    const numbers = () =>
      asked.flatMap(({ method, path, body }) =>
        method === 'POST' && path === '/api/v1/items' ? [(body as { id: string }).id] : [],
      );
    await send();
    await waitFor(() => expect(numbers()).toHaveLength(1));
    await send();
    await waitFor(() => expect(numbers()).toHaveLength(2));
    expect(numbers()[1]).toBe(numbers()[0]);
    // For somebody else: what may have been queued meanwhile must not stand for it.
    await userEvent.clear(await field('To'));
    await userEvent.type(await field('To'), 'QT4LB-8');
    replies['POST /api/v1/items'] = { body: arrivedItem({ direction: 'out' }) };
    await send();
    await waitFor(() => expect(numbers()).toHaveLength(3));
    expect(numbers()[2]).not.toBe(numbers()[0]);
    await waitFor(() => expect(written()).toMatchObject({ body: '', addressee: '' }));
  });
});

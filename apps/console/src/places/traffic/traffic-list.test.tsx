import { act, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { readWith, useReadMarks } from '../../live/read-marks';
import { renderPiece, stationAnswers } from '../../testing/render';
import { arrivedItem, AT, openSettings } from '../../testing/samples';
import { TrafficList } from './traffic-list';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

describe('what is in hand', () => {
  const item = (n: number, more: object) => ({
    ...arrivedItem(),
    id: `0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c${n}`,
    sender: `QT${n}`,
    createdAt: `2026-11-25T08:00:${n}.000Z`,
    ...more,
  });

  it('counts what needs somebody though it is not on the first page, and each item once', async () => {
    const old = item(11, { heap: 'needs you', createdAt: '2026-11-20T08:00:00.000Z' });
    const both = item(12, { heap: 'needs you' });
    stationAnswers({
      'GET /api/v1/settings': { body: openSettings },
      'GET /api/v1/items': { body: { rows: [item(13, { heap: 'arrived' }), both], next: 'x' } },
      'GET /api/v1/items/open': { body: { rows: [both, old], more: false } },
    });
    renderPiece(<TrafficList selectedId={null} />);
    expect(await screen.findByText('QT11')).toBeTruthy();
    expect(screen.getAllByText('QT12')).toHaveLength(1);
    expect(screen.getByRole('heading', { name: 'Needs you' }).parentElement!.textContent).toContain('2');
  });

  it('finds what is asked for, filed or not, and nothing else', async () => {
    const asked = stationAnswers({
      'GET /api/v1/settings': { body: openSettings },
      'GET /api/v1/items': { body: { rows: [item(14, { heap: 'filed', filedAt: AT })], next: null } },
      'GET /api/v1/items/open': { body: { rows: [item(11, { heap: 'needs you' })], more: false } },
    });
    renderPiece(<TrafficList selectedId={null} />);
    expect(await screen.findByText('QT11')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Search: Traffic' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Search' }), 'QT14');
    expect(await screen.findByText('QT14')).toBeTruthy();
    expect(screen.queryByText('QT11')).toBeNull();
    expect(asked.some(({ path }) => path.includes('text=QT14'))).toBe(true);
    await userEvent.click(screen.getByRole('button', { name: 'Close: the search' }));
    expect(await screen.findByText('QT11')).toBeTruthy();
  });

  it('files what arrived at once, and takes that back', async () => {
    const rows = [item(11, { heap: 'arrived' }), item(12, { heap: 'arrived' })];
    const ids = rows.map(({ id }) => id);
    const asked = stationAnswers({
      'GET /api/v1/settings': { body: openSettings },
      'GET /api/v1/items': { body: { rows, next: null } },
      'GET /api/v1/items/open': { body: { rows: [], more: false } },
      // One of them was filed by somebody else meanwhile.
      'POST /api/v1/items/filing': { body: { changed: [ids[0]] } },
    });
    renderPiece(<TrafficList selectedId={null} />);
    await userEvent.click(await screen.findByRole('button', { name: 'File these: 2 arrived items' }));
    expect(await screen.findByText('1 item filed')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Take them back' }));
    await waitFor(() => expect(screen.queryByText('1 item filed')).toBeNull());
    const posted = asked.filter(({ method }) => method === 'POST').map(({ body }) => body);
    expect(posted[0]).toMatchObject({ filed: true, ids: expect.arrayContaining(ids) });
    expect(posted[1]).toEqual({ filed: false, ids: [ids[0]] });
  });

  it('marks what came and was not opened on this device yet', async () => {
    useReadMarks.setState({ read: [], sinceMs: Date.parse('2026-11-01T00:00:00Z') });
    const one = item(11, { heap: 'needs you' });
    stationAnswers({
      'GET /api/v1/settings': { body: openSettings },
      'GET /api/v1/items': { body: { rows: [], next: null } },
      'GET /api/v1/items/open': {
        body: { rows: [one, item(12, { direction: 'out', heap: 'needs you' })], more: false },
      },
    });
    renderPiece(<TrafficList selectedId={null} />);
    expect(await screen.findAllByText(/^New: /)).toHaveLength(1);
    act(() => useReadMarks.getState().markRead(one.id));
    expect(screen.queryByText(/^New: /)).toBeNull();
  });

  it('shows of a text in parts all that is there, new again when more of it came', async () => {
    useReadMarks.setState({ read: [], sinceMs: Date.parse('2026-11-01T00:00:00Z') });
    const part = item(11, { kind: 'text', subject: null, body: '(1/3a) One', heap: 'needs you' });
    const texts = async (text: string, there: number) => {
      stationAnswers({
        'GET /api/v1/settings': { body: openSettings },
        'GET /api/v1/items': { body: { rows: [], next: null } },
        'GET /api/v1/items/open': { body: { rows: [{ ...part, whole: { text, of: 3, there } }], more: false } },
      });
      const { unmount } = renderPiece(<TrafficList selectedId={null} />);
      return { seen: (await screen.findByText(/One/)).textContent, unmount };
    };
    const first = await texts('One two, …', 2);
    expect(first.seen).toBe('New: 2 of 3 parts: One two, …');
    // Whichever of its parts was opened, the whole was seen.
    const id = '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c12';
    const opened = {
      set: 'a',
      n: 2,
      of: 3,
      text: 'One two, …',
      missing: [3],
      items: [
        { n: 1, id: part.id },
        { n: 2, id },
      ],
    };
    act(() => useReadMarks.getState().markRead(...readWith({ id, whole: null, parts: opened })));
    expect((await screen.findByText(/One/)).textContent).toBe('2 of 3 parts: One two, …');
    first.unmount();
    expect((await texts('One two, three.', 3)).seen).toBe('New: One two, three.');
  });

  it('says when there is more than can be shown', async () => {
    stationAnswers({
      'GET /api/v1/settings': { body: openSettings },
      'GET /api/v1/items': { body: { rows: [], next: null } },
      'GET /api/v1/items/open': { body: { rows: [item(11, { heap: 'needs you' })], more: true } },
    });
    renderPiece(<TrafficList selectedId={null} />);
    expect(await screen.findByText(/^1\s*or more$/)).toBeTruthy();
  });
});

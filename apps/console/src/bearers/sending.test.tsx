import { act, renderHook, waitFor } from '@testing-library/react';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { useDrafts } from '../drafts/drafts';
import { keptDrafts } from '../drafts/kept';
import { stationAnswers } from '../testing/render';
import { arrivedItem } from '../testing/samples';
import { useSending, type Written } from './sending';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const text: Written = {
  addressee: { is: 'address', address: 'QT4LB-8' },
  content: { is: 'text', body: 'Fuel low' },
  way: { by: 'packets', bearerId: 'radio', path: [], askAcknowledgement: true },
};
const mail: Written = { ...text, way: { by: 'mail', bearerId: 'mail' } } as Written;

function sending(answer: { status?: number; body: unknown }) {
  const asked = stationAnswers({ 'POST /api/v1/items': answer });
  const client = new QueryClient();
  const { result } = renderHook(useSending, {
    wrapper: ({ children }: { children: ReactNode }) => (
      <QueryClientProvider client={client}>{children}</QueryClientProvider>
    ),
  });
  return {
    press: async (written: Written) => {
      const before = asked.length;
      act(() => result.current.send(written));
      await waitFor(() => expect(asked.length).toBe(before + 1));
      await waitFor(() => expect(result.current.busy).toBe(false));
      return asked.at(-1)!.body as { id: string; deadline: string | null; precedence: string };
    },
  };
}

describe('sending', () => {
  beforeEach(() => {
    useDrafts.getState().startAnew();
    useDrafts.getState().change({ precedence: 'priority', withinMin: 60 });
  });
  const refused = (code: string) => ({
    status: code === 'away' ? 500 : 422,
    body: { type: `tombolo:${code}`, title: 'No', status: 422, detail: 'No.' },
  });

  it('sends precedence and deadline of the draft, and the same item however often it is pressed', async () => {
    const { press } = sending(refused('transmit-locked'));
    const first = await press(text);
    expect(first.precedence).toBe('priority');
    const within = Date.parse(first.deadline!) - Date.now();
    expect(within).toBeGreaterThan(59 * 60_000);
    expect(within).toBeLessThanOrEqual(60 * 60_000);
    expect(await press(text)).toEqual(first);
    // Another urgency is another item.
    act(() => useDrafts.getState().change({ precedence: 'emergency' }));
    expect((await press(text)).id).not.toBe(first.id);
  });

  it('sends the same item by a path that was reckoned otherwise meanwhile, and after the page was loaded again', async () => {
    const away = sending(refused('away'));
    const first = await away.press(text);
    const again = { ...text, way: { ...text.way, path: ['WIDE1-1'], times: 4 } } as Written;
    expect((await away.press(again)).id).toBe(first.id);
    const { open } = useDrafts.getState();
    const loaded = keptDrafts(Date.now()).find(({ id }) => id === open)!;
    useDrafts.setState({ drafts: { [open]: loaded } });
    expect(await sending(refused('away')).press(text)).toEqual(first);
  });

  it('sends another item once the draft was changed, and back', async () => {
    const { press } = sending(refused('away'));
    const first = await press(mail);
    act(() => useDrafts.getState().change({ attachments: [{ name: 'x', type: 'a/b', base64: 'QQ==', octets: 1 }] }));
    const second = await press(mail);
    expect(second.id).not.toBe(first.id);
    act(() => useDrafts.getState().undo());
    expect([first.id, second.id]).not.toContain((await press(mail)).id);
    expect((await press({ ...mail, addressee: { is: 'address', address: 'b@c.example' } })).id).not.toBe(second.id);
  });

  it('gives it its time anew when that was over before the station took it', async () => {
    const { press } = sending(refused('deadline-passed'));
    const first = await press(text);
    expect((await press(text)).id).not.toBe(first.id);
  });

  it('sets no deadline where it waits for a session', async () => {
    const { press } = sending({ status: 201, body: arrivedItem() });
    expect((await press(mail)).deadline).toBeNull();
  });
});

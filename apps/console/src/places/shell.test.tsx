import { act, fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { router } from 'expo-router';
import { useEffect, useState } from 'react';
import { usePreferences } from '../live/preferences';
import { renderPiece, stationAnswers } from '../testing/render';
import { openSettings } from '../testing/samples';
import { CheckRow } from '../ui/choice';
import { Field } from '../ui/field';
import { useLight } from '../ui/look';
import { Page, Waiting } from '../ui/page';
import { Shell } from './shell';

let mockPath = '/traffic';
jest.mock('expo-router', () => ({ router: { navigate: jest.fn() }, usePathname: () => mockPath }));
const navigate = router.navigate as jest.Mock;

/** A form that is half filled in. */
function Form() {
  const [text, setText] = useState('');
  const [checked, setChecked] = useState(false);
  return (
    <>
      <Field label="Note" value={text} onChangeText={setText} />
      <CheckRow label="Wanted" checked={checked} onChange={setChecked} />
    </>
  );
}
const show = async () => {
  stationAnswers({
    'GET /api/v1/settings': { body: openSettings },
    'GET /api/v1/bearers': { body: [] },
    'GET /api/v1/alarms': { body: [] },
    'GET /api/v1/hold': { body: { heldSince: null, atEquipment: [], waiting: 0 } },
  });
  renderPiece(
    <Shell>
      <Form />
    </Shell>,
  );
  await userEvent.type(screen.getByRole('textbox', { name: 'Note' }), 'half a sentence');
};
const note = () => screen.getByRole('textbox', { name: 'Note' });
const press = (key: string) => fireEvent.keyDown(document.body, { key });

beforeEach(() => {
  navigate.mockClear();
  usePreferences.getState().prefer({ singleKeys: true });
  useLight.setState({ light: 'day' });
});

describe('what is half filled in', () => {
  it('stays when the light is changed', async () => {
    await show();
    const before = note();
    await userEvent.click(screen.getByRole('button', { name: /^Light: Day/ }));
    expect(useLight.getState().light).toBe('dusk');
    expect(note()).toBe(before);
    expect(note()).toHaveValue('half a sentence');
  });

  it('stays under the list of keys, which Escape closes and which gives the focus back', async () => {
    await show();
    act(() => screen.getByRole('checkbox', { name: 'Wanted' }).focus());
    press('?');
    const close = await screen.findByRole('button', { name: 'Close' });
    expect(note()).toHaveValue('half a sentence');
    await waitFor(() => expect(screen.getByRole('dialog')).toContainElement(document.activeElement as HTMLElement));
    fireEvent.keyDown(close, { key: 'Escape' });
    fireEvent.keyUp(close, { key: 'Escape' });
    await waitFor(() => expect(screen.queryByRole('button', { name: 'Close' })).toBeNull());
    expect(note()).toHaveValue('half a sentence');
  });
});

describe('a key by itself', () => {
  it('goes to a place, but not from where keys mean something, and not when that is switched off', async () => {
    await show();
    press('c');
    expect(navigate).toHaveBeenLastCalledWith('/chart');
    navigate.mockClear();
    fireEvent.keyDown(screen.getByRole('checkbox', { name: 'Wanted' }), { key: 'c' });
    fireEvent.keyDown(note(), { key: 'c' });
    expect(navigate).not.toHaveBeenCalled();
    act(() => usePreferences.getState().prefer({ singleKeys: false }));
    press('c');
    expect(navigate).not.toHaveBeenCalled();
    press('?');
    expect(screen.queryByRole('button', { name: 'Close' })).toBeNull();
  });
});

describe('whoever goes to another place', () => {
  /** The place of the path, whose heading comes when it is loaded. */
  function Here({ loaded = true }: { loaded?: boolean }) {
    return loaded ? <Page title={mockPath === '/traffic' ? 'Traffic' : 'Bearers'}>…</Page> : <Waiting what="bearers" />;
  }
  let again: () => void = () => undefined;
  let loaded = true;
  function Console() {
    const [, turn] = useState(0);
    useEffect(() => {
      again = () => turn((n) => n + 1);
    }, []);
    return (
      <Shell>
        <Here key={mockPath} loaded={loaded} />
      </Shell>
    );
  }
  const go = (to: string) => {
    mockPath = to;
    act(() => again());
  };
  beforeEach(() => {
    mockPath = '/traffic';
    loaded = true;
    stationAnswers({ 'GET /api/v1/settings': { body: openSettings }, 'GET /api/v1/alarms': { body: [] } });
  });
  const heading = (name: string) => screen.getByRole('heading', { name, level: 1 });

  it('is taken to its heading, by which the window is called', () => {
    renderPiece(<Console />);
    expect(document.title).toBe('Traffic – Tombolo');
    expect(document.body).toHaveFocus();
    go('/bearers');
    expect(heading('Bearers')).toHaveFocus();
    expect(document.title).toBe('Bearers – Tombolo');
  });

  it('is taken there when it has loaded, but not away from what was gone on to meanwhile', async () => {
    renderPiece(<Console />);
    loaded = false;
    go('/bearers');
    loaded = true;
    act(() => again());
    await waitFor(() => expect(heading('Bearers')).toHaveFocus());
    loaded = false;
    go('/traffic');
    const write = screen.getByRole('link', { name: 'Write' });
    act(() => write.focus());
    loaded = true;
    act(() => again());
    await screen.findByRole('heading', { name: 'Traffic', level: 1 });
    await act(async () => undefined);
    expect(write).toHaveFocus();
  });

  it('may skip the places by the first stop of Tab', async () => {
    renderPiece(<Console />);
    await userEvent.tab();
    expect(screen.getByRole('link', { name: 'Skip to this place' })).toHaveFocus();
    await userEvent.keyboard('{Enter}');
    expect(heading('Traffic')).toHaveFocus();
    expect(navigate).not.toHaveBeenCalled();
  });
});

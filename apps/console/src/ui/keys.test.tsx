import { createEvent, fireEvent, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { router } from 'expo-router';
import { useState } from 'react';
import { renderPiece } from '../testing/render';
import { Button } from './button';
import { CheckRow, Choice } from './choice';
import { Link } from './link';
import { Body } from './text';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));
const navigate = router.navigate as jest.Mock;
beforeEach(() => navigate.mockClear());

describe('a link', () => {
  it('has an address that can be copied, is reached by Tab and followed by Enter', async () => {
    renderPiece(
      <Link href="/traffic/7" label="Open it">
        <Body>To QT1NC</Body>
      </Link>,
    );
    const link = screen.getByRole('link', { name: 'Open it' });
    expect(link.tagName).toBe('A');
    expect(link).toHaveAttribute('href', '/traffic/7');
    await userEvent.tab();
    expect(link).toHaveFocus();
    await userEvent.keyboard('{Enter}');
    expect(navigate.mock.calls).toEqual([['/traffic/7']]);
  });

  it.each([{ ctrlKey: true }, { metaKey: true }, { shiftKey: true }, { button: 1 }])(
    'is left to the browser when it is pressed with %j',
    (how) => {
      renderPiece(<Button title="Go to Bearers" href="/bearers" />);
      const link = screen.getByRole('link', { name: 'Go to Bearers' });
      const click = createEvent.click(link, how);
      fireEvent(link, click);
      expect(click.defaultPrevented).toBe(false);
      expect(navigate).not.toHaveBeenCalled();
      const plain = createEvent.click(link);
      fireEvent(link, plain);
      expect(plain.defaultPrevented).toBe(true);
      expect(navigate).toHaveBeenCalledTimes(1);
    },
  );

  it('may be followed beside the list that it stands in, at the same address', async () => {
    const go = jest.fn();
    renderPiece(
      <Link href="/packet/3" go={go}>
        <Body>A packet</Body>
      </Link>,
    );
    await userEvent.click(screen.getByRole('link'));
    expect(go).toHaveBeenCalledTimes(1);
    expect(navigate).not.toHaveBeenCalled();
  });
});

function Question() {
  const [checked, setChecked] = useState(false);
  return <CheckRow label="An antenna is connected" checked={checked} onChange={setChecked} />;
}
function Ways() {
  const [way, setWay] = useState('b');
  const options = ['a', 'b', 'c'].map((id) => ({ id, title: `Way ${id}` }));
  return <Choice label="Way" value={way} onChange={setWay} options={options} />;
}

describe('a checkbox', () => {
  it('is turned by Space, once for each press, without scrolling the page', async () => {
    renderPiece(<Question />);
    const box = screen.getByRole('checkbox');
    await userEvent.tab();
    expect(box).toHaveFocus();
    await userEvent.keyboard(' ');
    expect(box).toBeChecked();
    await userEvent.keyboard(' ');
    expect(box).not.toBeChecked();
    const press = createEvent.keyDown(box, { key: ' ' });
    fireEvent(box, press);
    expect(press.defaultPrevented).toBe(true);
  });
});

describe('radios', () => {
  it('are one stop of Tab, and arrows choose among them around the ends', async () => {
    renderPiece(<Ways />);
    const way = (id: string) => screen.getByRole('radio', { name: `Way ${id}` });
    await userEvent.tab();
    expect(way('b')).toHaveFocus();
    await userEvent.keyboard('{ArrowDown}');
    expect(way('c')).toBeChecked();
    expect(way('c')).toHaveFocus();
    await userEvent.keyboard('{ArrowRight}');
    expect(way('a')).toBeChecked();
    await userEvent.keyboard('{ArrowUp}');
    expect(way('c')).toHaveFocus();
    await userEvent.tab();
    expect(document.body).toHaveFocus();
    await userEvent.tab({ shift: true });
    expect(way('c')).toHaveFocus();
  });
});

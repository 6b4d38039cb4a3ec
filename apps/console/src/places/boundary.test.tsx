import { act, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { isOutdated, reloadOnce } from '../live/build';
import { renderPiece } from '../testing/render';
import { Body } from '../ui/text';
import { PlaceBoundary } from './boundary';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

/** A page of the console as a station serves it. */
const pageWith = (program: string) => `<html><script src="/_expo/static/js/web/${program}.js" defer></script></html>`;
const serving = (page: string | null) => {
  globalThis.fetch = (async () => {
    if (page === null) throw new TypeError('no connection');
    return { ok: true, text: async () => page };
  }) as unknown as typeof fetch;
};
const open = (program: string) => {
  const script = document.createElement('script');
  script.type = 'text/plain';
  script.src = `/_expo/static/js/web/${program}.js`;
  document.head.append(script);
};
let broken = true;
function Place() {
  if (broken) throw new Error('Loading module /chart.js failed');
  return <Body>The chart</Body>;
}
beforeEach(() => {
  broken = true;
  sessionStorage.clear();
  document.head.innerHTML = '';
  serving(null);
  jest.spyOn(console, 'error').mockImplementation(() => undefined);
});
afterEach(() => jest.restoreAllMocks());

describe('a place that broke', () => {
  it('says so and is tried again; the others go on', async () => {
    renderPiece(
      <PlaceBoundary path="/chart">
        <Place />
      </PlaceBoundary>,
    );
    expect(screen.getByRole('alert')).toHaveTextContent('Loading module /chart.js failed');
    expect(screen.getByRole('link', { name: 'Go to Traffic' })).toHaveAttribute('href', '/traffic');
    broken = false;
    await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect(screen.getByText('The chart')).toBeInTheDocument();
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('is left behind by going elsewhere', async () => {
    let go: (path: string) => void = () => undefined;
    function Places() {
      const [path, setPath] = useState('/chart');
      go = setPath;
      return (
        <PlaceBoundary path={path}>
          <Place />
        </PlaceBoundary>
      );
    }
    renderPiece(<Places />);
    expect(screen.getByRole('heading', { name: 'This place broke' })).toBeInTheDocument();
    broken = false;
    act(() => go('/traffic'));
    await waitFor(() => expect(screen.getByText('The chart')).toBeInTheDocument());
  });
});

describe('the version of a page', () => {
  it('is old when the station serves another program, and is not judged without the station', async () => {
    open('entry-aaa');
    serving(pageWith('entry-bbb'));
    expect(await isOutdated()).toBe(true);
    serving(pageWith('entry-aaa'));
    expect(await isOutdated()).toBe(false);
    serving('<html>being built</html>');
    expect(await isOutdated()).toBe(false);
    serving(null);
    expect(await isOutdated()).toBe(false);
  });

  it('is loaded again once, and not in a circle', () => {
    const reload = jest.fn();
    expect(reloadOnce(1_000_000, reload)).toBe(true);
    expect(reloadOnce(1_030_000, reload)).toBe(false);
    expect(reload).toHaveBeenCalledTimes(1);
    expect(reloadOnce(1_070_000, reload)).toBe(true);
  });
});

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { isOutdated, reloadOnce } from '../live/build';
import { renderPiece } from '../testing/render';
import { ErrorBoundary } from './boundary';

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
beforeEach(() => {
  sessionStorage.clear();
  document.head.innerHTML = '';
  serving(null);
});

describe('a place that broke', () => {
  it('says so, is tried again, and can be left', async () => {
    const retry = jest.fn(async () => undefined);
    renderPiece(<ErrorBoundary error={new Error('Loading module /chart.js failed')} retry={retry} />);
    expect(screen.getByRole('alert')).toHaveTextContent('Loading module /chart.js failed');
    expect(screen.getByRole('link', { name: 'Go to Traffic' })).toHaveAttribute('href', '/traffic');
    await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect(retry).toHaveBeenCalledTimes(1);
  });

  it('is any place: every route has this to show', () => {
    const folder = join(__dirname, '../../app');
    const routes = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter(
      (name) => name.endsWith('.tsx') && !name.endsWith('_layout.tsx'),
    );
    expect(routes.length).toBeGreaterThan(15);
    const without = routes.filter(
      (name) =>
        !/export \{ ErrorBoundary \} from '(?:\.\.\/)+src\/places\/boundary';/.test(
          readFileSync(join(folder, name), 'utf8'),
        ),
    );
    expect(without).toEqual([]);
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

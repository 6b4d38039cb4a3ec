import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { router } from 'expo-router';
import type { ImportView } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../testing/render';
import { AT } from '../../testing/samples';
import { formatOfName, ImportPanel } from './import-panel';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn(), setParams: jest.fn() } }));

const run = (more: Partial<ImportView> = {}): ImportView => ({
  id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c42',
  name: 'net.log',
  format: 'monitor',
  startedAt: AT,
  finishedAt: AT,
  totalOctets: 1000,
  readOctets: 1000,
  understood: 9,
  notUnderstood: 0,
  kinds: [],
  reasons: [],
  packets: 7,
  problem: null,
  ...more,
});

describe('the form of a recording', () => {
  it.each([
    ['a.pcap', 'pcap'],
    ['A.CAP', 'pcap'],
    ['modem.kiss', 'kiss'],
    ['x.kss', 'kiss'],
    ['net.2026.log', 'monitor'],
    ['notes.txt', 'monitor'],
    ['notes', null],
    ['photo.jpg', null],
  ])('of %s is %s', (name, format) => expect(formatOfName(name)).toBe(format));
});

describe('reading a recording', () => {
  it('takes the form from the name, lets it be corrected, and says that nothing is transmitted', async () => {
    const asked = stationAnswers({
      'GET /api/v1/imports': { body: [] },
      'POST /api/v1/imports': { status: 201, body: run() },
    });
    // The file itself is the body of the request.
    const body: unknown[] = [];
    const answer = globalThis.fetch;
    globalThis.fetch = ((path: string, init?: RequestInit) => {
      if (init?.body instanceof File) body.push(init.body.name);
      return answer(path, init?.body instanceof File ? { ...init, body: undefined } : init);
    }) as typeof fetch;
    renderPiece(<ImportPanel />);
    expect(await screen.findByText('No recording yet')).toBeTruthy();
    expect(screen.getByText(/nothing is ever\s+transmitted because of it/)).toBeTruthy();
    await userEvent.upload(screen.getByLabelText('Recording'), new File(['x'.repeat(1500)], 'net.log'));
    expect(screen.getByText('net.log, 1.5 kB')).toBeTruthy();
    expect(screen.getByRole('radio', { name: 'Monitor text' })).toHaveAttribute('aria-checked', 'true');
    await userEvent.click(screen.getByRole('radio', { name: 'KISS octets' }));
    await userEvent.click(screen.getByRole('button', { name: 'Read it' }));
    await waitFor(() => expect(screen.queryByText('net.log, 1.5 kB')).toBeNull());
    expect(body).toEqual(['net.log']);
    expect(asked.find(({ method }) => method === 'POST')?.path).toMatch(/format=kiss/);
    expect(asked.find(({ method }) => method === 'POST')?.path).toMatch(/name=net\.log/);
  });

  it('that failed keeps the file at hand', async () => {
    stationAnswers({
      'GET /api/v1/imports': { body: [] },
      'POST /api/v1/imports': {
        status: 422,
        body: { type: 'tombolo:no-capture', title: 'No capture file', status: 422, detail: 'It begins with text.' },
      },
    });
    const answer = globalThis.fetch;
    globalThis.fetch = ((path: string, init?: RequestInit) =>
      answer(path, init?.body instanceof File ? { ...init, body: undefined } : init)) as typeof fetch;
    renderPiece(<ImportPanel />);
    await userEvent.upload(screen.getByLabelText('Recording'), new File(['x'], 'a.pcap'));
    await userEvent.click(screen.getByRole('button', { name: 'Read it' }));
    expect(await screen.findByText('The recording was not read to its end')).toBeTruthy();
    expect(screen.getByText(/It begins with text/)).toBeTruthy();
    expect(screen.getByText('a.pcap, 1 octet')).toBeTruthy();
  });

  it('shows how far it is, where it stopped, and leads to its packets', async () => {
    stationAnswers({
      'GET /api/v1/imports': {
        body: [
          run({ finishedAt: null, readOctets: 250, name: 'long.pcap' }),
          run({
            id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c43',
            name: 'cut.pcap',
            problem: 'The file ends inside a record.',
          }),
          run({ id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c44', name: 'piped', finishedAt: null, totalOctets: null }),
        ],
      },
    });
    renderPiece(<ImportPanel />);
    expect(await screen.findByText('Reading, 25 %')).toBeTruthy();
    expect(screen.getByText('Reading…')).toBeTruthy();
    expect(screen.getByText('It stopped early')).toBeTruthy();
    expect(screen.getByText('The file ends inside a record.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /Show what was not understood/ })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Show its packets: cut.pcap' }));
    expect(router.setParams).toHaveBeenCalledWith({ tab: 'heard', importId: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c43' });
  });
});

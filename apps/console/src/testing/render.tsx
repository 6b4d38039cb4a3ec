import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import type { ReactElement } from 'react';
import { LookProvider } from '../ui/look';

/** Renders a piece of the console with everything that stands around it, but no station. */
export function renderPiece(piece: ReactElement) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return render(
    <QueryClientProvider client={client}>
      <LookProvider>{piece}</LookProvider>
    </QueryClientProvider>,
  );
}

/** Stands in for the station: answers by path, and notes what was asked. */
export function stationAnswers(answers: Record<string, { status?: number; body: unknown }>) {
  const asked: { path: string; method: string; body: unknown }[] = [];
  globalThis.fetch = (async (path: string, init?: RequestInit) => {
    asked.push({ path, method: init?.method ?? 'GET', body: init?.body ? JSON.parse(String(init.body)) : null });
    const answer = answers[`${init?.method ?? 'GET'} ${path.split('?')[0]}`];
    if (!answer) throw new TypeError('no connection');
    const { status = 200, body } = answer;
    return { ok: status < 400, status, json: async () => body };
  }) as unknown as typeof fetch;
  return asked;
}

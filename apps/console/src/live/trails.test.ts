import { QueryClient } from '@tanstack/react-query';
import type { TrailView } from '@tombolo/contract';
import { stationAnswers } from '../testing/render';
import { AT, heardStation } from '../testing/samples';
import { forgetTrails, loadTrails, mergeTrails, type Trails } from './trails';

const NOW = Date.parse(AT);
const minutes = (n: number) => new Date(NOW + n * 60_000).toISOString();
const trail = (call: string, ...steps: number[]): TrailView => ({ call, steps });

/** A console that knows stations up to some change, and loads trails again and again. */
function consoleWith(newest: string) {
  const client = new QueryClient();
  client.setQueryData(['stations'], [heardStation({ changedAt: minutes(-60) }), heardStation({ changedAt: newest })]);
  const load = async (atMs = NOW) => {
    const loaded = await loadTrails(client, 6, atMs);
    client.setQueryData<Trails>(['trails', 6], loaded);
    return loaded.list;
  };
  return { client, load };
}
const queries = (asked: ReturnType<typeof stationAnswers>) => asked.map(({ path }) => decodeURIComponent(path));

describe('trails', () => {
  it('are loaded whole at first, then those alone that changed, with some overlap', async () => {
    const { load } = consoleWith(minutes(0));
    const answers = { 'GET /api/v1/trails': { body: [trail('A', 1, 2, 3, 4), trail('B', 5, 6, 1, 1)] } };
    const asked = stationAnswers(answers);
    expect(await load()).toHaveLength(2);
    answers['GET /api/v1/trails'].body = [trail('B', 5, 6, 1, 1, 9, 9), trail('C', 0, 0, 1, 1)];
    const merged = await load();
    expect(queries(asked)).toEqual(['/api/v1/trails?hours=6', `/api/v1/trails?hours=6&since=${minutes(-2)}`]);
    expect(merged.map(({ call, steps }) => [call, steps.length])).toEqual([
      ['A', 4],
      ['B', 6],
      ['C', 4],
    ]);
  });

  it('are loaded whole again before what is old should have left them', async () => {
    const { load } = consoleWith(minutes(0));
    const asked = stationAnswers({ 'GET /api/v1/trails': { body: [] } });
    await load();
    await load(NOW + 4 * 60_000);
    await load(NOW + 6 * 60_000);
    expect(queries(asked).map((path) => path.includes('since'))).toEqual([false, true, false]);
  });

  it('are loaded whole after an import, also one that ended while they were on their way', async () => {
    const { client, load } = consoleWith(minutes(0));
    const asked = stationAnswers({ 'GET /api/v1/trails': { body: [] } });
    await load();
    forgetTrails(client);
    await load();
    const onItsWay = load();
    forgetTrails(client);
    await onItsWay;
    await load();
    expect(queries(asked).map((path) => path.includes('since'))).toEqual([false, false, true, false]);
  });

  it('are whole as long as no station is known by whose changes to ask', async () => {
    const client = new QueryClient();
    const asked = stationAnswers({ 'GET /api/v1/trails': { body: [] } });
    for (let n = 0; n < 2; n++) client.setQueryData(['trails', 6], await loadTrails(client, 6, NOW));
    expect(queries(asked)).toEqual(['/api/v1/trails?hours=6', '/api/v1/trails?hours=6']);
  });

  it('that did not change are the very same, so that nothing is drawn anew', () => {
    const before = [trail('A', 1, 2)];
    expect(mergeTrails(before, [])).toBe(before);
  });
});

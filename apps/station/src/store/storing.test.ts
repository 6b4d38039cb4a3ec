import type { Storing } from '@tombolo/contract';
import type { DataSource, EntityManager } from 'typeorm';
import { eventually } from '../testing/harness';
import { watchStoring, type StoringWatch } from './storing';

const FULL = Object.assign(new Error('could not extend file'), { code: '53100' });

/** A database whose answers the test gives. */
const held = () => {
  const asked: (() => void)[] = [];
  let room = true;
  let trials = 0;
  const query = () => new Promise<unknown[]>((resolve) => asked.push(() => resolve([])));
  const transaction = (work: (manager: EntityManager) => Promise<unknown>) =>
    work({
      query: () => {
        trials++;
        return room ? Promise.resolve([]) : Promise.reject(FULL);
      },
    } as unknown as EntityManager);
  return {
    database: { query, transaction } as unknown as DataSource,
    asked,
    trials: () => trials,
    room(is: boolean) {
      room = is;
    },
  };
};

describe('whether the database stores', () => {
  const told: Storing[] = [];
  let watch: StoringWatch;
  const start = ({ database }: Pick<ReturnType<typeof held>, 'database'>) => {
    told.length = 0;
    watch = watchStoring({ database, now: () => 0, onChange: (state) => told.push(state), log: () => undefined });
    watch.start();
  };
  afterEach(() => watch.stop());

  it('is not told by an answer to what was asked before the disk was full', async () => {
    const store = held();
    store.room(false);
    start(store);
    await eventually(() => store.asked.length === 1);
    watch.failed(FULL);
    expect(watch.state()).toMatchObject({ storing: false, reason: 'the disk is full' });
    store.asked[0]!();
    await eventually(() => store.trials() === 1);
    expect(told.map(({ storing }) => storing)).not.toContain(true);
    store.room(true);
    await eventually(() => watch.state().storing);
  });

  it('is not told by a little that still found room', async () => {
    const store = held();
    store.room(false);
    start(store);
    watch.failed(FULL);
    watch.succeeded();
    expect(watch.state()).toMatchObject({ storing: false, reason: 'the disk is full' });
    store.room(true);
    await eventually(() => watch.state().storing);
    expect(told.map(({ storing }) => storing)).toEqual([false, true]);
  });

  it('is told at once by what was stored after the database was away', () => {
    start(held());
    watch.failed(Object.assign(new Error('gone'), { code: '57P01' }));
    expect(watch.state().reason).toBe('the database does not answer');
    watch.succeeded();
    expect(watch.state()).toMatchObject({ storing: true, reason: null });
  });
});

import { createLife } from './life';

describe('a life', () => {
  it('ends once with all that belongs to it, the last first; all who ask wait for the whole', async () => {
    const life = createLife();
    const done: string[] = [];
    let slow: () => void = () => undefined;
    life.atEnd(() => done.push('first'));
    life.atEnd(() => new Promise<void>((resolve) => (slow = resolve)).then(() => done.push('slow')));
    life.atEnd(() => done.push(`last, over: ${life.over}`));
    expect(life.over).toBe(false);
    const asked = [life.end(), life.end()];
    expect(life.over).toBe(true);
    await Promise.resolve();
    await new Promise((resolve) => setImmediate(resolve));
    expect(done).toEqual(['last, over: true']);
    slow();
    await Promise.all(asked);
    expect(done).toEqual(['last, over: true', 'slow', 'first']);
    await life.end();
    expect(done).toHaveLength(3);
  });

  it('keeps nothing from its end because another ending failed, and says that it failed', async () => {
    const life = createLife();
    const done: string[] = [];
    life.atEnd(() => done.push('first'));
    life.atEnd(() => Promise.reject(new Error('stuck')));
    await expect(life.end()).rejects.toThrow('stuck');
    expect(done).toEqual(['first']);
  });

  it('does again and again what it is told to, until it is over, and begins nothing after', async () => {
    jest.useFakeTimers();
    try {
      const life = createLife();
      let times = 0;
      life.every(1000, () => times++);
      jest.advanceTimersByTime(3500);
      expect(times).toBe(3);
      const ended = life.end();
      await ended;
      life.every(1000, () => times++);
      jest.advanceTimersByTime(5000);
      expect(times).toBe(3);
      let late = false;
      life.atEnd(() => (late = true));
      expect(late).toBe(true);
    } finally {
      jest.useRealTimers();
    }
  });
});

import { createInTurn } from './in-turn';

describe('one thing after the other', () => {
  it('keeps the order, gives each what its own work gave, and goes on after a failure', async () => {
    const inTurn = createInTurn();
    const order: string[] = [];
    let letGo = () => undefined as void;
    const first = inTurn(() => new Promise<string>((resolve) => (letGo = () => resolve('first')))).then((word) => {
      order.push(word);
      return word;
    });
    const second = inTurn(async () => {
      order.push('second begins');
      throw new Error('second fails');
    });
    const third = inTurn(async () => order.push('third'));
    await Promise.resolve();
    expect(order).toEqual([]);
    letGo();
    expect(await first).toBe('first');
    await expect(second).rejects.toThrow('second fails');
    expect(await third).toBe(3);
    expect(order).toEqual(['first', 'second begins', 'third']);
  });

  it('is idle when all of it has ended, also what failed', async () => {
    const inTurn = createInTurn();
    await inTurn.idle();
    let ended = false;
    inTurn(async () => {
      await Promise.resolve();
      ended = true;
      throw new Error('fails');
    }).catch(() => undefined);
    await inTurn.idle();
    expect(ended).toBe(true);
  });
});

import { AlreadyConnected } from '@tombolo/link-stream';
import { connectTo } from './connect';
import type { SessionContext } from './session';

/** Where our last connection stands for so many looks, and then there is no modem. */
function behindAnother(looks: number, stoppedAfter = Infinity) {
  const stages: string[] = [];
  let asked = 0;
  let pauses = 0;
  const context = {
    stage: (words: string) => void stages.push(words),
    connect() {
      throw asked++ < looks ? new AlreadyConnected('QT1BB-4') : new Error('no modem here');
    },
    pause: async () => void pauses++,
    stopped: () => pauses >= stoppedAfter,
  } as Partial<SessionContext> as SessionContext;
  return { context, stages, asked: () => asked };
}

describe('a connection of a session', () => {
  it('waits until the last one to the same station is taken down, and says so once', async () => {
    const { context, stages, asked } = behindAnother(3);
    await expect(connectTo(context, 'QT1BB-4')).rejects.toThrow('no modem here');
    expect(asked()).toBe(4);
    expect(stages).toEqual(['the last connection to QT1BB-4 is being taken down']);
  });

  it('does not wait for ever, nor behind a stop', async () => {
    const stuck = behindAnother(Infinity);
    await expect(connectTo(stuck.context, 'QT1BB-4')).rejects.toThrow('there is a connection to QT1BB-4 already');
    expect(stuck.asked()).toBe(241);
    const stopped = behindAnother(Infinity, 2);
    await expect(connectTo(stopped.context, 'QT1BB-4')).rejects.toThrow(AlreadyConnected);
    expect(stopped.asked()).toBe(2);
  });
});

import { createDatabase, eventually, RADIO, startModem, startWithModem } from '../testing/harness';
import { rowsOf } from '../store/database';
import { bearerViews } from './views';

describe('the card of a bearer', () => {
  it('does not say “up” for a process that is gone: its equipment may be there, but nobody listens to it', async () => {
    const database = await createDatabase();
    const modem = await startModem();
    const station = await startWithModem(database.url, modem);
    const { context } = station;
    try {
      const byAnother = async () =>
        (
          await bearerViews(context.database, {
            now: context.now(),
            settings: await context.settings(),
            running: [],
          })
        ).find(({ id }) => id === RADIO)!.state;
      // Another process sees it as it is while this one owns it,
      expect(await byAnother()).toMatchObject({ link: 'up', reason: null });
      // and no longer when the connection that owned it is gone, as after a kill; the row still says what was so.
      await rowsOf(
        context.database,
        `select pg_terminate_backend(l.pid) from pg_locks l where l.locktype = 'advisory' and l.objid::bigint = (hashtext($1)::bigint & 4294967295)`,
        [RADIO],
      );
      await eventually(async () => {
        const { link, reason } = await byAnother();
        return link === 'down' && reason === 'No process of the station runs it at this moment.';
      });
      // Who was cut off takes its own up again.
      await eventually(async () => (await byAnother()).link === 'up');
    } finally {
      await station.stop();
      await modem.stop();
      await database.drop();
    }
  });
});

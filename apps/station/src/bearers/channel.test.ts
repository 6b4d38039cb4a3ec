import type { BearerView, PacketDetail, PacketSummary } from '@tombolo/contract';
import { createDatabase, eventually, itemWhen, RADIO, startModem, startWithModem } from '../testing/harness';
import { textTo } from '../testing/written';
import { rowsOf } from '../store/database';

describe('the channel of what is heard and sent', () => {
  it('is the frequency of that time; one that was retuned goes on without being connected anew', async () => {
    const database = await createDatabase();
    const modem = await startModem();
    const station = await startWithModem(database.url, modem);
    const { api } = station;
    try {
      const link = async () => (await api.get<BearerView[]>('/bearers')).find(({ id }) => id === RADIO)!;
      await api.patch(`/bearers/${RADIO}`, { config: { ...(await link()).config, frequencyMHz: 144.39 } });
      const heard = (from: string) =>
        eventually(async () => {
          const { rows } = await api.get<{ rows: PacketSummary[] }>(`/packets?bearerId=${RADIO}`);
          return rows.find(({ source }) => source === from);
        });
      for (let n = 0; n < 20; n++) modem.hear(`QT1AA-9>APRS:>Number ${n} on the first frequency`);
      const first = await heard('QT1AA-9');
      await eventually(async () => (await link()).heardLastHour === 20);
      const busy = await link();
      expect(busy.tuned).toEqual({ frequencyHz: 144_390_000, before: [] });
      expect(busy.load).toBeGreaterThan(0);

      const { since } = busy.state;
      await api.patch(`/bearers/${RADIO}`, { config: { ...busy.config, frequencyMHz: 144.8 } });
      const retuned = await link();
      expect(retuned.tuned).toEqual({ frequencyHz: 144_800_000, before: [144_390_000] });
      expect(retuned.state).toMatchObject({ link: 'up', since });
      expect(modem.connections()).toBe(1);
      // The load of the other frequency is not the load of this one; what was heard in the hour is.
      expect(retuned.load).toBe(0);
      expect(retuned.heardLastHour).toBe(20);

      modem.hear('QT1AB>APRS:>On the second frequency');
      const second = await heard('QT1AB');
      const frequencyOf = async ({ id }: PacketSummary) =>
        (await api.get<PacketDetail>(`/packets/${id}`)).copies.map(({ frequencyHz }) => frequencyHz);
      expect(await frequencyOf(first)).toEqual([144_390_000]);
      expect(await frequencyOf(second)).toEqual([144_800_000]);

      const text = textTo('QT4LB-8', 'On which frequency');
      await api.post('/items', text);
      await itemWhen(api, text.id, ({ status }) => status.rung === 'sent');
      const tries = await rowsOf<{ hz: string }>(
        station.context.database,
        `select c.frequency_hz as hz from attempt a join channel c on c.id = a.channel_id`,
      );
      expect(tries[0]).toEqual({ hz: '144800000' });
    } finally {
      await station.stop();
      await modem.stop();
      await database.drop();
    }
  });
});

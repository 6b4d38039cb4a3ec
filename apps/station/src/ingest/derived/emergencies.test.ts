import type { Alarm } from '@tombolo/contract';
import { eachWithModem, eventually, forgetCopies } from '../../testing/harness';

const at = eachWithModem();

const alarms = () => at.api.get<Alarm[]>('/alarms');
const HELP = 'QT4LB-8>APRS:!4114.55N\\04327.36W!Adrift';
const WELL = 'QT4LB-8>APRS:!4114.55N/04327.36WsUnder way';
/** Until what was heard is dealt with, in its order. */
const after = async (call: string) => {
  at.modem.hear(`${call}>APRS:>Marker`);
  await eventually(async () => (await at.api.get<{ rows: unknown[] }>(`/packets?station=${call}`)).rows.length === 1);
};

describe('a call for help', () => {
  it('raises one alarm, however often it is repeated, and is over when the station says otherwise', async () => {
    at.modem.hear(HELP);
    await eventually(async () => (await alarms()).length === 1);
    expect((await alarms())[0]).toMatchObject({
      call: 'QT4LB-8',
      kind: 'emergency',
      drill: false,
      takenBy: null,
      endedAt: null,
      words: 'calls for help, by its symbol',
    });
    at.modem.hear(HELP.replace('>APRS', '>APRS,QT0BR-1*'));
    at.modem.hear(HELP.replace('Adrift', 'Still adrift'));
    await after('QT9AA');
    expect(await alarms()).toHaveLength(1);
    at.modem.hear(WELL);
    await eventually(async () => (await alarms())[0]!.endedAt !== null);
    // Again, it is another one.
    await forgetCopies(at.station);
    at.modem.hear(HELP);
    await eventually(async () => (await alarms()).length === 2);
    expect((await alarms())[0]!.endedAt).toBeNull();
  });

  it('is told apart from a drill, which does not stand for the real one', async () => {
    at.modem.hear(HELP.replace('Adrift', 'DRILL of the lifeboat'));
    await eventually(async () => (await alarms()).length === 1);
    expect((await alarms())[0]).toMatchObject({ drill: true });
    at.modem.hear(HELP);
    await eventually(async () => (await alarms()).length === 2);
    expect((await alarms())[0]).toMatchObject({ drill: false });
    at.modem.hear(WELL);
    await eventually(async () => (await alarms()).every(({ endedAt }) => endedAt !== null));
  });

  it('is taken by one, by name; of two at once the first has it', async () => {
    at.modem.hear(HELP);
    const [alarm] = await eventually(async () => {
      const raised = await alarms();
      return raised.length === 1 && raised;
    });
    for (const wrong of ['', ' ', 'A\nB', 'x'.repeat(31)])
      expect(await at.api.post(`/alarms/${alarm!.id}/taking`, { by: wrong })).toMatchObject({ status: 422 });
    const taken = await Promise.all(
      ['AR', 'NC'].map((by) => at.api.post<Alarm>(`/alarms/${alarm!.id}/taking`, { by })),
    );
    expect(taken[0]!.takenBy).toBe(taken[1]!.takenBy);
    expect(['AR', 'NC']).toContain((await alarms())[0]!.takenBy);
    expect(await at.api.post('/alarms/999999/taking', { by: 'AR' })).toMatchObject({ status: 404 });
  });

  it('is not raised by ourselves, nor by the name of a net, nor by a text about one', async () => {
    for (const line of [
      'QT2AR-9>APRS:!4114.55N\\04327.36W!',
      'QT1NC>APRS:>EMERGENCY NET on the hour',
      'QT1NC>APRS::QT7SH-5  :EMERGENCY at the pier{1',
    ])
      at.modem.hear(line);
    await after('QT9AB');
    expect(await alarms()).toEqual([]);
  });
});

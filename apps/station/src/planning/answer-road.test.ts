import { DataSource } from 'typeorm';
import type { BearerView, ItemDetail } from '@tombolo/contract';
import { eachWithModem, eventually, RADIO } from '../testing/harness';
import { textTo } from '../testing/written';
import { pathOfAnswer } from './answer-road';
import { planningOf } from './of-station';
import { proposeWays } from './propose';

const at = eachWithModem();

const usual = async (path: readonly string[]) => {
  const [bearer] = await at.api.get<BearerView[]>('/bearers');
  await at.api.patch(`/bearers/${RADIO}`, { config: { ...bearer!.config, path } });
};
/** The clinic sends a text over the digipeater on the bridge, which hears us; gives the path of the acknowledgement. */
async function acknowledgedOver(): Promise<string> {
  at.modem.hear('QT0BR-1>APZTMB:>Fill-in on the bridge');
  at.modem.hear('QT6CL>APZTMB,QT0BR-1*,WIDE2-1:>On the air');
  at.modem.hear('QT6CL>APZTMB,QT0BR-1*,WIDE2-1::QT2AR-7  :Are you there?{4');
  const line = await eventually(async () => at.lines().find((one) => one.includes(':ack4')));
  return /^QT2AR-7>[^,:]+,?([^:]*):/.exec(line!)![1]!;
}

describe('the path of an acknowledgement', () => {
  it('is the one that takes least of the channel until it has arrived, by all that was heard', async () => {
    await usual(['WIDE1-1', 'WIDE2-1']);
    expect(await acknowledgedOver()).toBe('WIDE1-1');
  });

  it('is, like the way that is proposed, the shortest of those that come to the same, at whatever minute', async () => {
    await usual(['WIDE1-1', 'WIDE2-1']);
    await acknowledgedOver();
    const planning = await planningOf(at.station.context);
    const question = { to: 'QT6CL', text: 'Yes', precedence: 'routine', withinMin: null } as const;
    // What was heard counts less with each of them, and every chance is rounded anew.
    for (let minute = 0; minute < 60; minute += 3) {
      const later = { ...planning, nowMs: planning.nowMs + minute * 60_000 };
      expect(await pathOfAnswer(later, { bearerId: RADIO, to: 'QT6CL' })).toEqual(['WIDE1-1']);
      expect((await proposeWays(later, question)).ways[0]!.send.way).toMatchObject({ path: ['WIDE1-1'] });
    }
  });

  it('asks for no more digipeaters than the operator set', async () => {
    await usual([]);
    expect(await acknowledgedOver()).toBe('');
  });

  it('is the one that the operator made, where that is none of the usual ones', async () => {
    await usual(['QT0TH-3']);
    expect(await acknowledgedOver()).toBe('QT0TH-3');
  });
});

describe('an answer goes as it was queued', () => {
  let owner: DataSource;
  beforeEach(async () => {
    await usual(['WIDE2-2']);
    owner = await new DataSource({ type: 'postgres', url: at.database.ownerUrl }).initialize();
  });
  afterEach(() => owner.destroy());

  it('where planning fails', async () => {
    // What the planner reads of our antenna is gone; nothing else needs it.
    await owner.query('alter table equipment rename to gone');
    expect(await acknowledgedOver()).toBe('WIDE2-2');
  });

  it('where planning does not come to an end, and what is urgent behind it too', async () => {
    const runner = owner.createQueryRunner();
    await runner.startTransaction();
    try {
      await runner.query('lock table equipment in access exclusive mode');
      expect(await acknowledgedOver()).toBe('WIDE2-2');
      // Those who call meanwhile are answered without planning: no more connections wait for it.
      for (const number of [5, 6, 7]) {
        at.modem.hear(`QT6CL>APZTMB,QT0BR-1*,WIDE2-1::QT2AR-7  :Still there?{${number}`);
        await eventually(() => at.lines().find((one) => one.includes(`:ack${number}`)));
      }
      const waiting: unknown[] = await at.station.context.database.query(
        `select query from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'`,
      );
      expect(waiting).toHaveLength(1);
      let answered: ItemDetail | null = null;
      const text = textTo('QT4LB-8', 'Help', { precedence: 'emergency' });
      void at.api.post<ItemDetail>('/items', text).then((item) => (answered = item));
      await eventually(() => at.lines().find((one) => one.includes(':Help')));
      expect(await eventually(() => answered)).toMatchObject({ id: text.id, direction: 'out' });
    } finally {
      await runner.rollbackTransaction();
      await runner.release();
    }
  });
});

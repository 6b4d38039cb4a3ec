import type { ItemDetail, PredictionsView, WaysQuestion, WaysView } from '@tombolo/contract';
import { corrected, correctionFor, DEFAULT_RETRY } from '@tombolo/core';
import { addEvidence } from '../store/evidence';
import { eachWithModem, itemWhen, RADIO } from '../testing/harness';
import { listPerson } from '../testing/listed';
import { textTo } from '../testing/written';
import { queueByItself, settle } from '../transmissions/write';
import { correctionsFrom } from './corrections';

const at = eachWithModem();
const NOW = new Date('2026-11-25T14:00:00Z');
const NOW_MS = NOW.getTime();
const DAY_MS = 86_400_000;
const waysTo = async (to: string, more: Partial<WaysQuestion> = {}) =>
  (await at.api.post<WaysView>('/ways', { to, text: 'Water is rising', ...more })).ways;

/** So many forecasts of `proven` that came to nothing, long ago, to as many addressees in turn. */
async function promised(count: number, proven: number, addressees = ['QT8PH-12']): Promise<void> {
  const { database, now } = at.station.context;
  const then = new Date(now() - 24 * 3_600_000);
  await database.transaction(async (manager) => {
    for (let n = 0; n < count; n++) {
      const legId = await queueByItself(
        manager,
        {
          role: 'convey',
          bearerId: RADIO,
          fromCall: 'QT2AR-7',
          toCall: addressees[n % addressees.length]!,
          policy: DEFAULT_RETRY,
        },
        { at: then, dueAt: then, by: 'QT2AR-7', note: 'long ago' },
      );
      await addEvidence(manager, {
        key: `sent:${legId}`,
        itemId: null,
        legId,
        kind: 'sent',
        at: then,
        bearer: RADIO,
        by: 'QT2AR-7',
        note: '',
      });
      await settle(manager, legId);
      await manager.query(
        `insert into prediction (leg_id, at, bearer_kind, proven, low, high, basis, rests) values ($1, $2, 'kiss-tcp', $3, 0, 1, 'map', '[]')`,
        [legId, then, proven],
      );
    }
  });
}

describe('forecasts that came out otherwise', () => {
  it('correct those to come; what was reckoned is kept beside what is told', async () => {
    await promised(
      40,
      0.8,
      Array.from({ length: 15 }, (_, n) => `QT8PH-${n + 1}`),
    );
    await listPerson(at.api, 'Net control', { call: 'QT1NC' });
    const [way] = await waysTo('QT1NC');
    expect(way!.arrives.chance).toBeLessThan(way!.reckoned! - 0.1);
    expect(way!.strips[0]!.chance).toBeCloseTo(way!.arrives.chance, 9);
    const { corrections, byBearer } = await at.api.get<PredictionsView>('/predictions');
    expect(byBearer).toMatchObject([{ name: 'packet radio', count: 40 }]);
    expect(corrections).toMatchObject([{ name: 'packet radio' }]);
    const { examples } = corrections[0]!;
    for (const { reckoned, told } of examples) expect(told).toBeLessThan(reckoned);
    const text = textTo('QT1NC', 'Is anybody there?', { path: [] });
    await at.api.post<ItemDetail>('/items', text);
    await itemWhen(at.api, text.id, ({ predictions }) => Object.keys(predictions).length === 1);
    const [kept] = await at.station.context.database.query<[{ proven: number; reckoned: number }]>(
      'select p.proven, p.reckoned from prediction p join leg l on l.id = p.leg_id where l.item_id = $1',
      [text.id],
    );
    expect(kept.proven).toBeLessThan(kept.reckoned - 0.05);
  });

  it('correct nothing while they are too few to judge', async () => {
    await promised(29, 0.8);
    expect((await waysTo('QT1NC'))[0]!.reckoned).toBeNull();
    expect((await at.api.get<PredictionsView>('/predictions')).corrections).toEqual([]);
  });

  it('of two modems of packet radio are of one sort, however they are plugged in', () => {
    const half = (kind: 'kiss-tcp' | 'kiss-serial') =>
      Array.from({ length: 15 }, () => ({
        happened: false,
        at: NOW,
        basis: 'map' as const,
        to: 'QT8PH-12',
        kind,
        predicted: 0.9,
        reckoned: 0.9,
      }));
    expect([...correctionsFrom([...half('kiss-tcp'), ...half('kiss-serial')], NOW_MS).keys()]).toEqual(['packets']);
    expect(correctionsFrom(half('kiss-tcp'), NOW_MS).size).toBe(0);
  });

  it('of one sort of bearer say nothing of another, and are fitted to what was reckoned', () => {
    const wrong = Array.from({ length: 30 }, () => ({
      happened: false,
      at: NOW,
      basis: 'map' as const,
      to: 'QT8PH-12',
    }));
    const told = correctionsFrom(
      [
        ...wrong.map((one) => ({ ...one, kind: 'kiss-tcp' as const, predicted: 0.2, reckoned: 0.9 })),
        ...wrong.slice(1).map((one) => ({ ...one, kind: 'mesh-mqtt' as const, predicted: 0.9, reckoned: 0.9 })),
      ],
      NOW_MS,
    );
    expect([...told.keys()]).toEqual(['packets']);
    const asTold = correctionsFrom(
      wrong.map((one) => ({ ...one, kind: 'kiss-tcp' as const, predicted: 0.9, reckoned: 0.2 })),
      NOW_MS,
    );
    expect(told.get('packets')).not.toEqual(asTold.get('packets'));
  });
});

describe('forecasts for one addressee', () => {
  const forecasts = (to: string, count: number, happens: number, kind: 'kiss-tcp' | 'radio-mail' = 'kiss-tcp') =>
    Array.from({ length: count }, (_, n) => ({
      happened: n < happens,
      at: new Date(NOW_MS - DAY_MS),
      basis: 'evidence' as const,
      to,
      kind,
      predicted: 0.9,
      reckoned: 0.9,
    }));

  it('are corrected by theirs besides, where their own set proves them', () => {
    const by = correctionsFrom([...forecasts('QT8PH-12', 20, 6), ...forecasts('QT6CL', 40, 37)], NOW_MS).get(
      'packets',
    )!;
    const told = (to: string) => corrected(0.9, correctionFor(by, to));
    expect(told('QT8PH-12')).toBeLessThan(0.6);
    expect(told('QT6CL')).toBeGreaterThan(0.85);
    expect(told('QT1NC')).toBeGreaterThan(told('QT8PH-12'));
    expect(by.theirs.get('QT8PH-12')).toMatchObject({ count: 20, happened: 6 });
    // A relay that takes a mail takes it for anybody.
    const mail = [...forecasts('a@b.example', 20, 6, 'radio-mail'), ...forecasts('c@d.example', 40, 37, 'radio-mail')];
    expect(correctionsFrom(mail, NOW_MS).get('mail')!.theirs.size).toBe(0);
  });

  it('are told with their way, and in the report', async () => {
    await promised(40, 0.8);
    const [way] = await waysTo('QT8PH-12');
    expect(way!.theirs).toEqual({ count: 40, expected: expect.closeTo(32, 6), happened: 0 });
    const { corrections } = await at.api.get<PredictionsView>('/predictions');
    expect(corrections[0]!.theirs).toMatchObject([{ to: 'QT8PH-12', count: 40, happened: 0 }]);
    await listPerson(at.api, 'Net control', { call: 'QT1NC' });
    const [other] = await waysTo('QT1NC');
    expect(other!.theirs).toBeNull();
    expect(other!.arrives.chance / other!.reckoned!).toBeGreaterThan(way!.arrives.chance / way!.reckoned!);
  });
});

describe('forecasts of long ago', () => {
  const wrong = (count: number, daysAgo: number) =>
    Array.from({ length: count }, (_, n) => ({
      happened: false,
      at: new Date(NOW_MS - daysAgo * DAY_MS),
      basis: 'map' as const,
      to: `QT8PH-${1 + (n % 15)}`,
      kind: 'kiss-tcp' as const,
      predicted: 0.8,
      reckoned: 0.8,
    }));
  const told = (forecasts: ReturnType<typeof wrong>) => {
    const by = correctionsFrom(forecasts, NOW_MS).get('packets');
    return by && corrected(0.8, by);
  };

  it('say less than those of late, and in the end nothing', () => {
    const late = wrong(40, 1).map((one, n) => ({ ...one, happened: n % 5 !== 0 }));
    expect(told(late)).toBeGreaterThan(0.75);
    const mixed = told([...late, ...wrong(40, 120)])!;
    expect(mixed).toBeLessThan(told(late)!);
    expect(mixed).toBeGreaterThan(told([...late, ...wrong(40, 2)])! + 0.1);
    expect(told(wrong(40, 1))).toBeLessThan(0.5);
    expect(told(wrong(40, 365))).toBeUndefined();
    // A clock that was set back makes none more than one.
    expect(told(wrong(40, -30))).toBeCloseTo(told(wrong(40, 0))!, 9);
  });
});

describe('how often a text is sent', () => {
  it('is reckoned with each way, within what the settings allow; what is urgent takes all of it', async () => {
    const times = async (more: Partial<WaysQuestion> = {}) => {
      const [way] = await waysTo('QT1NC', more);
      return way!.send.way.by === 'packets' ? way!.send.way.times : null;
    };
    const short = await times();
    // Much air time must bring much.
    const text = 'Water is rising. '.repeat(30);
    expect(await times({ text })).toBeLessThan(short!);
    expect(await times({ text })).toBeGreaterThanOrEqual(2);
    expect(await times({ text, precedence: 'priority' })).toBe(8);
    expect(await times({ precedence: 'priority' })).toBe(8);
    await at.api.patch('/settings', { mostTries: 2 });
    expect(await times()).toBe(2);
  });

  it('is as often as its way says, whatever the settings', async () => {
    const text = textTo('QT1NC', 'Is anybody there?', { path: [], times: 2 });
    await at.api.post<ItemDetail>('/items', text);
    await itemWhen(at.api, text.id, ({ status }) => status.outcome === 'expired', 20);
    expect(at.modem.sent).toHaveLength(2);
    expect(await at.api.post('/items', textTo('QT1NC', 'Too often', { times: 1000 }))).toMatchObject({ status: 422 });
  });
});

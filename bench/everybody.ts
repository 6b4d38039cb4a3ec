import { EVERYBODY_AT_ONCE, type EverybodyView, type Person } from '@tombolo/contract';
import { createDatabase, eventually, startModem, startWithModem } from '../apps/station/src/testing/harness';
import { listPerson } from '../apps/station/src/testing/listed';
import { keepServices, PHONE } from '../apps/station/src/testing/services';
import { median, type Figure } from './figure';

const PEOPLE = 100;
const REPEATERS = 8;
const ROUNDS = 5;

/** All ways to everybody on a long list, as things are and with the busiest digipeater thought off. */
export async function everybody(): Promise<Figure[]> {
  const database = await createDatabase();
  const modem = await startModem();
  const station = await startWithModem(database.url, modem);
  try {
    const { api } = station;
    await keepServices(api, { ...PHONE, reached: 'QT1GW-10' });
    const digipeater = (n: number) => `QT${n % REPEATERS}DG-3`;
    let sent = 0;
    const hear = (line: string) => {
      modem.hear(line);
      sent++;
    };
    for (let n = 0; n < REPEATERS; n++) hear(`${digipeater(n)}>APZTMB:!4115.${10 + n}N/04320.${10 + 7 * n}W#Up here`);
    hear('QT1GW-10>APZTMB:!4112.42N/04325.26W&Gateway');
    for (let n = 0; n < PEOPLE; n++) {
      const call = `QT${n % 10}${String.fromCharCode(65 + (n % 26), 65 + (Math.floor(n / 10) % 26))}`;
      // Two of three have a set, two of three a phone.
      await listPerson(api, `Person ${n}`, {
        ...(n % 3 !== 0 && { call }),
        ...(n % 3 !== 1 && { phone: `+00 555 ${1000 + n}` }),
      });
      for (const by of [n, n + 3])
        hear(
          `${call}>APZTMB,${digipeater(by)}*,WIDE2-1:!41${10 + (n % 9)}.${10 + (n % 80)}N/043${10 + (n % 30)}.15W-No ${by}`,
        );
    }
    await eventually(async () => {
      const [row] = await station.context.database.query<[{ n: number }]>('select count(*)::int as n from reception');
      return row.n >= sent;
    }, 60);
    const asked = async (off: string) => {
      const times: number[] = [];
      let reached = 0;
      for (let round = 0; round < ROUNDS; round++) {
        const start = performance.now();
        reached = 0;
        for (let from = 0; from < PEOPLE; from += EVERYBODY_AT_ONCE) {
          const { people } = await api.get<EverybodyView>(`/ways/everybody?off=${off}&from=${from}`);
          reached += people.filter(({ surest }) => surest !== null).length;
        }
        times.push(performance.now() - start);
      }
      return { ms: median(times), reached };
    };
    const listed = (await api.get<Person[]>('/people')).length;
    const asItIs = await asked('');
    const thought = await asked(digipeater(0));
    return [
      {
        name: 'Who is left of everybody on the list',
        value: Math.max(asItIs.ms, thought.ms),
        unit: 'ms',
        goal: 2000,
        better: 'less',
        note: `${listed} people over ${REPEATERS} digipeaters and a gateway, ${asItIs.reached} of them reached; as it is ${Math.round(asItIs.ms)} ms, with one digipeater thought off ${Math.round(thought.ms)} ms; median of ${ROUNDS}`,
      },
    ];
  } finally {
    await station.stop();
    await modem.stop();
    await database.drop();
  }
}

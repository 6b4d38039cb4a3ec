import { summaryOf } from './explain';
import { decodeInformation } from './information';
import { summaryInUnit } from './summary-units';

const lineOf = (info: string, destination = 'APZTOM') => {
  const data = decodeInformation(Buffer.from(info, 'utf8'), destination);
  if (!data.ok) throw new Error(data.error.reason);
  return { line: summaryOf(data.value), kind: data.value.kind };
};
const inEach = (info: string) => {
  const { line, kind } = lineOf(info);
  return (['km', 'mi', 'nmi'] as const).map((unit) => summaryInUnit(line, kind, unit));
};

describe('the line of a packet', () => {
  // The report is an example of the protocol reference, version 1.0.1, chapter 12; 1 mph = 0.44704 m/s and 1 nautical mile = 1852 m
  // by definition.
  it('tells wind in the chosen unit, to the mile an hour in which it was sent', () => {
    const weather = inEach('!4903.50N/07201.75W_220/004g005t077r000p000P000h50b09900wRSW');
    expect(weather[0]).toContain('wind from 220° 1.8 m/s, gusts 2.2 m/s, 25 °C');
    expect(weather[1]).toContain('wind from 220° 4 mph, gusts 5 mph, 25 °C');
    expect(weather[2]).toContain('wind from 220° 3 kn, gusts 4 kn, 25 °C');
    for (let mph = 0; mph < 150; mph++) {
      const told = inEach(`_10090556c220s${String(mph).padStart(3, '0')}g005t077`);
      expect(told[1]).toMatch(new RegExp(`^wind from 220° ${mph} mph, `));
    }
  });

  it('tells motion in the chosen unit', () => {
    const moving = inEach('!4903.50N/07201.75W>088/036 On patrol');
    expect(moving.map((line) => line.split(' – ').slice(1))).toEqual([
      ['88° at 67 km/h', 'On patrol'],
      ['88° at 41 mph', 'On patrol'],
      ['88° at 36 kn', 'On patrol'],
    ]);
  });

  it('leaves as it is what the sender wrote, and what says nothing of it', () => {
    const [patrol] = inEach('!4903.50N/07201.75W>088/036 12 kn – 9.0 m/s');
    expect(patrol).toMatch(/88° at 67 km\/h – 12 kn – 9\.0 m\/s$/);
    const { line } = lineOf('>Wind 12 kn, gusts 4.0 m/s');
    expect(summaryInUnit(line, 'status', 'mi')).toBe(line);
    // Kept from when it was told to the whole metre a second: in miles an hour it would be off by one.
    expect(summaryInUnit('wind from 220° 2 m/s, 25 °C', 'weather', 'mi')).toBe('wind from 220° 2 m/s, 25 °C');
    for (const odd of ['', ' – ', ' –  – ', 'x'.repeat(5000)])
      for (const kind of ['position', 'Mic-E', 'weather', 'message']) expect(summaryInUnit(odd, kind, 'mi')).toBe(odd);
  });
});

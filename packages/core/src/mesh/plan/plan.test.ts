import { loraSensitivityDbm } from '../air-time';
import { firstHeardMin, planGroup, type MeshGroup } from './group';
import { meanCurrentMa, runningHours, wattHoursADay } from './running';
import { panelWhByMonth, shortMonths, sunAboveAirKwh } from './sun';

const group = (more: Partial<MeshGroup> = {}): MeshGroup => ({
  carriers: 3,
  neighboursKm: 4,
  acrossKm: 12,
  powerDbm: 14,
  gainDb: 4,
  clutterDb: 20,
  frequencyHz: 868_300_000,
  bandwidthHz: 125_000,
  codingRate: 1,
  textsPerHour: 30,
  octets: 40,
  ...more,
});

describe('a group of the mesh', () => {
  it('takes the quickest setting that does, with its margin by free space and the stated loss', () => {
    const { settings, proposed, hopsNeeded, hopLimit } = planGroup(group());
    expect([hopsNeeded, hopLimit]).toEqual([3, 4]);
    // 32.45 + 20 log d(km) + 20 log f(MHz): ITU-R P.525.
    const receivedDbm = 18 - (32.45 + 20 * Math.log10(4) + 20 * Math.log10(868.3)) - 20;
    for (const { spreadingFactor, marginDb } of settings)
      expect(marginDb).toBeCloseTo(receivedDbm - loraSensitivityDbm({ spreadingFactor, bandwidthHz: 125_000 }), 1);
    expect(settings.map(({ spreadingFactor }) => spreadingFactor)).toEqual([7, 8, 9, 10, 11, 12]);
    expect(proposed).toBe(settings.find(({ faults }) => faults.length === 0));
    // The farther setting has more in hand and takes more of the hour: what is too near is never proposed for being quick.
    for (let n = 1; n < settings.length; n++) {
      expect(settings[n]!.marginDb).toBeGreaterThan(settings[n - 1]!.marginDb);
      expect(settings[n]!.airMs).toBeGreaterThan(settings[n - 1]!.airMs);
    }
  });

  it('says what speaks against a setting: too little in hand, a full channel, the share of the hour', () => {
    const far = planGroup(group({ neighboursKm: 12, clutterDb: 22 }));
    expect(far.settings[0]!.faults[0]).toMatch(/^Only -?\d+ dB in hand between neighbours; 10 are wanted\.$/);
    expect(far.proposed === null || far.proposed.spreadingFactor > 7).toBe(true);
    const busy = planGroup(group({ textsPerHour: 600 }));
    expect(busy.settings[5]!.faults.join(' ')).toMatch(/% of the channel; beyond 10 % too many collide/);
    expect(busy.settings[5]!.faults.join(' ')).toMatch(
      /A carrier would be on the air .* 1\.0 % are allowed in 868\.0–868\.6 MHz/,
    );
    // A carrier repeats each text once: thirty of an hour, by their air time.
    const { carrierShare, channelShare, airMs } = planGroup(group()).settings[0]!;
    expect(carrierShare).toBeCloseTo((30 * airMs) / 3_600_000, 9);
    expect(channelShare).toBeCloseTo(4 * carrierShare, 9);
  });

  it('that is too long for its carriers, or for any packet, says so', () => {
    expect(planGroup(group({ acrossKm: 20, carriers: 3 }))).toMatchObject({
      hopsNeeded: 5,
      hopLimit: null,
      hopsFault: 'Between the two ends 4 must repeat, and there are 3.',
    });
    expect(planGroup(group({ acrossKm: 300, carriers: 99 })).hopsFault).toMatch(
      /75 hops, and no packet goes over more than 15/,
    );
    expect(planGroup(group({ acrossKm: 3, carriers: 0 }))).toMatchObject({
      hopsNeeded: 1,
      hopLimit: 2,
      hopsFault: null,
    });
  });
});

describe('when the first of a group is heard', () => {
  it('is as by ten thousand hours drawn by chance', () => {
    const announcing = { nodes: 3, everyMin: 25, chance: 0.4 };
    let state = 7;
    const random = () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647;
    const firsts = Array.from({ length: 10_000 }, () =>
      Math.min(
        ...Array.from({ length: announcing.nodes }, () => {
          // At one moment of each interval; the first that is heard.
          for (let k = 0; ; k++) {
            const at = (k + random()) * announcing.everyMin;
            if (random() < announcing.chance) return at;
          }
        }),
      ),
    );
    for (const share of [0.5, 0.9, 0.99]) {
      const by = firstHeardMin(announcing, share)!;
      expect(Math.abs(firsts.filter((at) => at <= by).length / firsts.length - share)).toBeLessThan(0.015);
    }
  });

  it('is within one interval for one that is always heard, and never for none', () => {
    expect(firstHeardMin({ nodes: 1, everyMin: 20, chance: 1 }, 0.9)).toBeCloseTo(18, 9);
    expect(firstHeardMin({ nodes: 0, everyMin: 20, chance: 1 }, 0.9)).toBeNull();
    expect(firstHeardMin({ nodes: 5, everyMin: 20, chance: 0 }, 0.9)).toBeNull();
  });
});

describe('running time', () => {
  const drawn = { sleepMa: 0, receiveMa: 10, transmitMa: 120, receiveShare: 0.99, transmitShare: 0.01 };
  it('is capacity over the mean current, by hand', () => {
    // 9.9 + 1.2 mA.
    expect(meanCurrentMa(drawn)).toBeCloseTo(11.1, 9);
    expect(runningHours(drawn, { capacityMah: 3000, voltageV: 3.7, usableShare: 0.85 })).toBeCloseTo(2550 / 11.1, 6);
    expect(wattHoursADay(drawn, { voltageV: 3.7 })).toBeCloseTo(0.0111 * 3.7 * 24, 9);
    expect(
      runningHours({ ...drawn, receiveMa: 0, transmitShare: 0 }, { capacityMah: 1, voltageV: 1, usableShare: 1 }),
    ).toBe(Infinity);
  });

  it('of one cell comes to what operators report: about a day without a position receiver (common practice, no source)', () => {
    const hours = runningHours(
      { sleepMa: 0, receiveMa: 100, transmitMa: 180, receiveShare: 0.99, transmitShare: 0.01 },
      { capacityMah: 3000, voltageV: 3.7, usableShare: 0.85 },
    );
    expect(hours).toBeGreaterThan(20);
    expect(hours).toBeLessThan(28);
  });
});

describe('the sun', () => {
  it('gives what FAO-56 works out: 32.2 MJ at 20° S on 3 September (its example 8, from memory)', () => {
    expect(3.6 * sunAboveAirKwh(-20, 246)).toBeCloseTo(32.2, 1);
  });

  it('gives the rows of its table 2.6 for 40° N and the equator (from memory), MJ a square metre and day', () => {
    const rows: [number, number[]][] = [
      [40, [15.0, 20.4, 27.2, 34.7, 39.7, 41.9, 40.8, 36.7, 30.0, 22.5, 16.3, 13.6]],
      [0, [36.2, 37.5, 37.9, 36.8, 34.8, 33.4, 33.9, 35.7, 37.2, 37.4, 36.3, 35.6]],
    ];
    for (const [latitude, months] of rows)
      panelWhByMonth(latitude, { areaM2: 1, efficiency: 1, throughCell: 1, clearness: 1 }).forEach((wh, n) => {
        // The table is printed to a tenth, and its days of the middle are rounded otherwise by one or two.
        expect(Math.abs((3.6 * wh) / 1000 - months[n]!)).toBeLessThan(0.25);
      });
  });

  it('does not rise in the polar night, and shines all day at midsummer there', () => {
    expect(sunAboveAirKwh(80, 355)).toBe(0);
    expect(sunAboveAirKwh(80, 172)).toBeGreaterThan(sunAboveAirKwh(40, 172));
    for (let latitude = -90; latitude <= 90; latitude += 5)
      for (let day = 1; day <= 365; day += 13) expect(Number.isFinite(sunAboveAirKwh(latitude, day))).toBe(true);
  });

  it('is short in the months in which a panel gives less than is drawn', () => {
    const given = panelWhByMonth(41, { areaM2: 0.01, efficiency: 0.18, throughCell: 0.8, clearness: 0.4 });
    expect(shortMonths(given, 2.6)).toEqual([0, 10, 11]);
    expect(shortMonths(given, 0)).toEqual([]);
    expect(shortMonths(given, 100)).toHaveLength(12);
  });
});

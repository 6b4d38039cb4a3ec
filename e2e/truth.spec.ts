import { OWN_CALL } from '@tombolo/scenario';
import { audit, AUDITED_BEARER, type Audit } from '../bench/truth/audit';
import { compareItem, comparePacket, type Tally } from '../bench/truth/compare';
import { compareMeshItem } from '../bench/truth/mesh';

describe('a piece of a day in the district, at sixty times its pace', () => {
  let audited: Audit;
  beforeAll(async () => {
    audited = await audit(60, 'truth', 1, { claims: 26_000, withinMs: 300_000 });
    const { tally, items, transmissions } = audited;
    process.stdout.write(`${tally.claims} claims compared, ${items} items, ${transmissions} transmissions\n`);
  }, 400_000);

  it('shows nothing that did not happen, and all that could be known of what did', () => {
    expect(audited.tally.untruths).toEqual([]);
    expect(audited.tally.claims).toBeGreaterThan(25_000);
    expect(audited.restarts).toBe(1);
    expect(audited.items).toBeGreaterThan(20);
  });

  it('would be found out, were one thing shown that is not so', () => {
    const { record, last } = audited;
    const found = (compare: (tally: Tally) => void) => {
      const tally: Tally = { claims: 0, untruths: [] };
      compare(tally);
      return tally.untruths.length;
    };
    const sent = last.items.find((item) => item.evidence.some(({ kind }) => kind === 'sent'))!;
    const [leg] = sent.legs;
    const told = { ...sent.evidence[0]!, id: 'x', legId: leg!.id, by: 'QT9XX', at: new Date().toISOString() };
    const item = (more: object) =>
      found((tally) => compareItem(tally, record, { ...sent, ...more }, OWN_CALL, AUDITED_BEARER));
    expect(item({})).toBe(0);
    expect(item({ evidence: [...sent.evidence, { ...told, kind: 'relayed' }] })).toBeGreaterThan(0);
    expect(item({ evidence: [...sent.evidence, { ...told, kind: 'delivered', raw: null }] })).toBeGreaterThan(0);
    const strip = { state: 'heard', evidence: [], inferred: false };
    const causeway = {
      stones: [...sent.causeway!.stones.slice(0, 1), { label: 'QT9XX', known: true }],
      strips: [strip],
    };
    expect(item({ causeway })).toBeGreaterThan(0);

    const { meshRecord } = audited;
    const relayed = last.mesh.find((one) => one.evidence.some(({ kind }) => kind === 'relayed'))!;
    const onMesh = (more: object) => found((tally) => compareMeshItem(tally, meshRecord, { ...relayed, ...more }));
    expect(onMesh({})).toBe(0);
    const repeat = relayed.evidence.find(({ kind }) => kind === 'relayed')!;
    const { raw: handedOver } = relayed.evidence.find(({ kind }) => kind === 'intended')!;
    expect(onMesh({ evidence: [{ ...repeat, raw: handedOver }] })).toBeGreaterThan(0);
    const hop = repeat.road!.hops[0]!;
    const road = { ...repeat.road!, hops: Array.from({ length: 9 }, () => hop) };
    expect(
      onMesh({ evidence: relayed.evidence.map((one) => (one === repeat ? { ...one, road } : one)) }),
    ).toBeGreaterThan(0);

    const repeated = last.packets.find(({ copies }) =>
      copies.some(
        ({ bearerId, statements }) => bearerId === AUDITED_BEARER && statements.some(({ certain }) => !certain),
      ),
    )!;
    const copies = repeated.copies.map((copy) => ({
      ...copy,
      statements: [{ words: 'QT9XX passed it on.', certain: true, facts: [] }],
    }));
    expect(
      found((tally) => comparePacket(tally, record, { ...repeated, copies }, OWN_CALL, AUDITED_BEARER)),
    ).toBeGreaterThan(0);
  });
});

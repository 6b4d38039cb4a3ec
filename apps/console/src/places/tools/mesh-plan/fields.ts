import { readDecimal } from '@tombolo/core';
import { numberOf } from '../reach/ends';

interface PlanField {
  readonly label: string;
  readonly usual: string;
  readonly least: number;
  readonly most: number;
  readonly hint?: string;
}

/** What is entered of a group, of a node and its cell, and of a panel. */
export const PLAN_FIELDS = {
  nodes: { label: 'Nodes in all', usual: '12', least: 2, most: 500 },
  carriers: { label: 'Of them carriers, which repeat', usual: '3', least: 0, most: 500 },
  neighboursKm: {
    label: 'To the next node, km',
    usual: '4',
    least: 0.05,
    most: 200,
    hint: 'At its farthest, between two that must hear each other',
  },
  acrossKm: { label: 'From end to end, km', usual: '12', least: 0.05, most: 1000 },
  clutterDb: {
    label: 'Loss by what lies between, dB',
    usual: '20',
    least: 0,
    most: 80,
    hint: 'Houses, trees, hills. Reach reckons it over the ground',
  },
  powerDbm: { label: 'Power of a node, dBm', usual: '14', least: -10, most: 36, hint: '14 dBm are 25 mW, 20 are 100' },
  gainDb: { label: 'Gain of both antennas, dB', usual: '4', least: -20, most: 40 },
  texts: { label: 'Texts and positions of all, an hour', usual: '30', least: 0, most: 10_000 },
  octets: { label: 'Characters of one', usual: '40', least: 1, most: 160 },
  capacityMah: { label: 'Capacity of the cell, mAh', usual: '3000', least: 10, most: 1_000_000 },
  voltageV: { label: 'Its voltage, V', usual: '3.7', least: 1, most: 60 },
  usable: { label: 'Of it that reaches the node, %', usual: '85', least: 1, most: 100, hint: 'Less in the cold' },
  receiveMa: { label: 'Drawn while it listens, mA', usual: '60', least: 0.01, most: 5000 },
  transmitMa: { label: 'Drawn while it sends, mA', usual: '180', least: 0.01, most: 10_000 },
  sleepMa: { label: 'Drawn while it sleeps, mA', usual: '1', least: 0, most: 1000 },
  listens: {
    label: 'Of the time that it listens, %',
    usual: '100',
    least: 0,
    most: 100,
    hint: 'A carrier listens always; the rest it sleeps',
  },
  panelCm2: { label: 'Panel, cm²', usual: '200', least: 0, most: 100_000 },
  panelEfficiency: { label: 'Of the sun that it turns into current, %', usual: '18', least: 1, most: 50 },
  throughCell: { label: 'Of that which comes out of the cell again, %', usual: '75', least: 1, most: 100 },
  clearness: {
    label: 'Of the sun that the weather lets through, %',
    usual: '40',
    least: 1,
    most: 90,
    hint: 'About 30 in a grey winter, 70 in a dry summer',
  },
  everyMin: { label: 'Each announces itself every, min', usual: '25', least: 1, most: 1440 },
  heard: { label: 'Of its announcements that are heard, %', usual: '50', least: 1, most: 100 },
} as const satisfies Record<string, PlanField>;
export type PlanFieldId = keyof typeof PLAN_FIELDS;
export type Entered = Record<PlanFieldId, string>;

export const USUAL_PLAN = Object.fromEntries(
  Object.entries(PLAN_FIELDS).map(([id, { usual }]) => [id, usual]),
) as Entered;

/** Wholes: there is no half node. */
const WHOLE: ReadonlySet<PlanFieldId> = new Set(['nodes', 'carriers', 'octets']);

/** What is wrong with a field; null when nothing is. */
export function faultOf(id: PlanFieldId, text: string): string | null {
  const { least, most } = PLAN_FIELDS[id];
  const read = numberOf(text, least, most);
  if (!WHOLE.has(id)) return typeof read === 'string' ? read : null;
  return Number.isInteger(read) ? null : `a whole number from ${least} to ${most}`;
}

/** The numbers of fields; null while one of them is not right. */
export const numbersOf = <K extends PlanFieldId>(entered: Entered, ids: readonly K[]): Record<K, number> | null =>
  ids.some((id) => faultOf(id, entered[id]) !== null)
    ? null
    : (Object.fromEntries(ids.map((id) => [id, readDecimal(entered[id])])) as Record<K, number>);

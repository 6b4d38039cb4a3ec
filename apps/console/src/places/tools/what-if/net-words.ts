import type { NetView } from '@tombolo/contract';

/** How the sorts of net are spoken of. */
export interface NetWords {
  /** Who is in it. */
  readonly station: string;
  /** Who repeats for others. */
  readonly repeater: string;
  /** By what one sends. */
  readonly by: string;
  /** Over what it may go. */
  readonly over: string;
  /** What limits that, of what we send. */
  readonly limit: 'path' | 'hop limit';
}

const PACKET: NetWords = {
  station: 'station',
  repeater: 'digipeater',
  by: 'by packet radio',
  over: 'straight or over up to two digipeaters, or fewer where your path is thought to ask for fewer',
  limit: 'path',
};
const MESH: NetWords = {
  station: 'node',
  repeater: 'carrier',
  by: 'on this mesh',
  over: 'straight or over as many nodes as your hop limit allows, each of which repeats what it hears',
  limit: 'hop limit',
};

export const netWords = ({ bearerId }: Pick<NetView, 'bearerId'>): NetWords => (bearerId === null ? PACKET : MESH);

/** What people call a station of a net: its call, or what a node is called. */
export const labelIn =
  ({ stations }: Pick<NetView, 'stations'>) =>
  (call: string): string =>
    stations.find((one) => one.call === call)?.label ?? call;

/** The same with the name of whoever is there. */
export const nameIn =
  ({ stations }: Pick<NetView, 'stations'>) =>
  (call: string): string => {
    const station = stations.find((one) => one.call === call);
    return station ? (station.name ? `${station.label} (${station.name})` : station.label) : call;
  };

import { chanceOfMargin, PACKET_SETTINGS, type RadioEnd } from '../reach/link-budget';
import { beliefOf, type Belief } from './beta';

/** What nobody said of a station: a usual set, antenna and place (common practice, no source). */
export const USUAL_END: RadioEnd = { antennaM: 8, powerW: 10, gainDbi: 2, clutterDb: 6 };
/** Ours may be a hand-held. */
export const OUR_END: RadioEnd = { antennaM: 2, powerW: 5, gainDbi: 0, clutterDb: 6 };
/** A digipeater is put up high and in the open (common practice, no source). */
export const REPEATER_END: RadioEnd = { antennaM: 10, powerW: 25, gainDbi: 3, clutterDb: 0 };
/** A node of a mesh: a hand-held at head height, and one that was put up to carry for others (common practice, no source). */
export const MESH_END: RadioEnd = { antennaM: 2, powerW: 0.1, gainDbi: 2, clutterDb: 6 };
export const CARRIER_END: RadioEnd = { antennaM: 8, powerW: 0.1, gainDbi: 3, clutterDb: 0 };
/** What a frame needs at a receiver of packet radio. */
export const PACKET_NEEDS_DBM = PACKET_SETTINGS[0]!.sensitivityDbm;

/** What the map tells counts for so many tries. */
const MAP_STRENGTH = 2;
/** What the map gives no more than this is no way; and no link is surer by it, for a set may be off or the channel taken (common practice, no source). */
export const LEAST_BY_MAP = 0.02;
const MOST_BY_MAP = 0.9;

/** The chance of one frame, as far as a map can tell. */
export const chanceByMap = (marginDb: number): number => Math.min(MOST_BY_MAP, chanceOfMargin(marginDb));

/** What is believed of a link that was never heard, by its chance on the map. */
export const beliefByMap = (chance: number): Belief => beliefOf(chance, MAP_STRENGTH);

import type { Arrival, Crossing, Probed, Rung, Spread, Theirs, Together } from '@tombolo/core';
import { across, chanceBy, rungIndex } from '@tombolo/core';
import type { PlannedWay, RestsOn } from '@tombolo/contract';
import type { OwnTries } from './own-tries';

/** One crossing from us to the next holder, with all that is told of it. */
export interface Candidate {
  readonly id: string;
  /** Of what a person reads first: `Packet radio, direct`. */
  readonly title: string;
  /** In a sentence: `by packet radio, direct`. */
  readonly how: string;
  /** Who holds it then: the addressee, or somebody who hands it on. */
  readonly holder: Holder;
  readonly arrival: Arrival;
  readonly arrives: Spread;
  readonly proof: { readonly rung: Rung; readonly proven: Spread; readonly by: string } | null;
  /** What it shares with others, so that it is told what is left of it where another one failed. */
  readonly together: Together;
  readonly airS: number;
  /** Chance that it works at all, however often it is tried; null where that is not doubted. */
  readonly works: number | null;
  /** Over how many digipeaters its answer is reckoned, and whether their own packets tell so; null where none is reckoned. */
  readonly answer: PlannedWay['answer'];
  /** What was reckoned before it was corrected by how earlier forecasts came out; null where nothing was. */
  readonly reckoned: {
    readonly arrives: Spread;
    readonly proven: Spread | null;
    readonly theirs: Theirs | null;
  } | null;
  readonly rests: readonly RestsOn[];
  readonly tries: OwnTries;
  /** What it rests on where neither receptions nor tries tell. */
  readonly otherwise: string | null;
  /** Who may be off, in words. */
  readonly silences: readonly string[];
  readonly cautions: readonly string[];
  readonly send: PlannedWay['send'];
  /** Where somebody can be asked over it, whose set answers by itself; null where that cannot be. */
  readonly askable: Askable | null;
}

export interface Askable {
  readonly probed: Probed;
  /** Chance that they answer at all, whatever the path. */
  readonly answers: number;
  /** Expected seconds of the channel, repeats included: of the question until it is answered, and of what answers it. */
  readonly questionS: number;
  readonly answerS: number;
}

export interface Holder {
  readonly name: string;
  /** From there to the addressee, which is not seen by us; null where the holder is the addressee. */
  readonly beyond: Beyond | null;
}

export interface Beyond {
  readonly arrival: Arrival;
  /** When it can go on, for something that is there at a time; absent: at any time. */
  readonly opensAt?: Crossing['opensAt'];
  readonly words: string;
}

export interface Excluded {
  readonly title: string;
  readonly reason: string;
  readonly remedy: string;
}

export const US = 'us';
export const FAR = 'far';

/** Chance that it is with the addressee within `withinS`, from holder to holder. */
export const chanceInTime = (
  { arrival, holder: { beyond } }: Pick<Candidate, 'arrival' | 'holder'>,
  withinS: number,
): number => chanceBy(beyond ? across(arrival, beyond.arrival, beyond.opensAt) : arrival, withinS);

/** The crossings that candidates stand for: to the addressee, or to a holder and from there on. */
export function crossingsOf(candidates: readonly Candidate[]): Crossing[] {
  return candidates.flatMap(({ id, holder: { name, beyond }, arrival, airS, proof }) => {
    // Each has a holder of its own: what is proved of one way is not proved of another.
    const there = beyond ? `${name} (${id})` : FAR;
    const rank = proof ? rungIndex(proof.rung) : -1;
    const first: Crossing = { id, from: US, to: there, arrival, airS, proof: rank, hands: 0 };
    if (!beyond) return [first];
    const { arrival: on, opensAt } = beyond;
    return [
      first,
      {
        id: `${id}/on`,
        from: there,
        to: FAR,
        arrival: on,
        ...(opensAt && { opensAt }),
        airS: 0,
        proof: rank,
        hands: 0,
      },
    ];
  });
}

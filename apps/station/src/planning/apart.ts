import { expectedS, explainWay, findWays, leftAfter, ninetyS, type FoundWay } from '@tombolo/core';
import { VIRTUES, type Person, type PlannedWay } from '@tombolo/contract';
import { crossingsOf, FAR, US, type Candidate } from './candidate';
import { leastOfSurest } from './nearly-surest';
import { isSeen } from './rests';

interface Told {
  readonly way: FoundWay;
  readonly virtues: PlannedWay['virtues'];
}

/** Those that a person would tell apart, each with what sets it apart. */
export function apart(ways: readonly FoundWay[]): Told[] {
  const best = (score: (way: FoundWay) => number) =>
    ways.reduce<FoundWay | null>((found, way) => (found === null || score(way) > score(found) ? way : found), null);
  const by: Partial<Record<(typeof VIRTUES)[number], FoundWay | null>> = {
    surest: best(({ arrival }) => arrival.chance),
    fastest: best(({ arrival }) => -(expectedS(arrival) ?? Infinity)),
    'least air time': best(({ airS }) => -airS),
    'best proof': best(({ proof, arrival }) => proof + arrival.chance / 2),
    'fewest hands': best(({ hands, arrival }) => -hands + arrival.chance / 2),
  };
  const told = ways.flatMap((way): Told[] => {
    const virtues = VIRTUES.filter((virtue) => by[virtue] === way);
    return virtues.length > 0 ? [{ way, virtues }] : [];
  });
  const proposed = leastOfSurest(told, ({ way: { arrival, airS } }) => ({ chance: arrival.chance, airS }));
  return proposed ? [proposed, ...told.filter((one) => one !== proposed)] : told;
}

/** The surest of each bearer and service that is not among them: what is beaten in everything still goes where the others fail together. */
export function sharingNothing(candidates: readonly Candidate[], told: readonly Told[], deadlineS: number): Told[] {
  const roadOf = ({ send }: Candidate) => `${send.way.bearerId}/${send.command?.service ?? ''}/${send.broughtBy ?? ''}`;
  const taken = new Set(
    told.flatMap(({ way }) => candidates.filter(({ id }) => id === way.crossings[0]?.id).map(roadOf)),
  );
  const more: Told[] = [];
  for (const road of new Set(candidates.map(roadOf))) {
    if (taken.has(road)) continue;
    const own = crossingsOf(candidates.filter((candidate) => roadOf(candidate) === road));
    const [way] = findWays(own, US, FAR, { deadlineS, mostCrossings: 2 }).ways;
    if (way) more.push({ way, virtues: ['fails for other reasons'] });
  }
  return more.sort((a, b) => b.way.arrival.chance - a.way.arrival.chance);
}

export function planned(
  candidate: Candidate,
  way: FoundWay,
  virtues: PlannedWay['virtues'],
  person: Person | null,
  nowMs: number,
  proposed: Candidate,
): PlannedWay {
  const { arrives, holder, proof, rests, tries } = candidate;
  const beyond = holder.beyond?.arrival.chance ?? 1;
  const whole = { chance: way.arrival.chance, low: arrives.low * beyond, high: arrives.high * beyond };
  const receptions = rests.reduce((sum, { heard, inferred }) => sum + heard + inferred, 0);
  const last = rests.flatMap(({ lastAt }) => (lastAt === null ? [] : [Date.parse(lastAt)])).sort((a, b) => b - a)[0];
  const seen = isSeen(candidate);
  const [first, second] = explainWay({
    how: candidate.how,
    arrives: whole,
    ninetyS: ninetyS(way.arrival),
    proven: proof && { spread: proof.proven, by: proof.by, until: holder.beyond && holder.name },
    receptions,
    lastAgoS: last === undefined ? null : Math.max(0, (nowMs - last) / 1000),
    answered: tries.answered,
    unanswered: tries.unanswered,
    otherwise: candidate.otherwise,
  });
  return {
    id: candidate.id,
    title: candidate.title,
    virtues,
    sentences: [first, [second, ...candidate.silences].join(' ')],
    arrives: whole,
    afterFirst: candidate === proposed ? null : whole.chance * leftAfter(proposed.together, candidate.together),
    works: candidate.works,
    answer: candidate.answer,
    reckoned: candidate.reckoned && candidate.reckoned.arrives.chance * beyond,
    theirs: theirsOf(candidate),
    proof: proof && { rung: proof.rung, proven: proof.proven },
    expectedS: expectedS(way.arrival) ?? 0,
    ninetyS: ninetyS(way.arrival) ?? 0,
    airS: candidate.airS,
    hands: way.hands,
    strips: [
      { from: 'you', to: holder.name, chance: arrives.chance, seen },
      ...(holder.beyond
        ? [{ from: holder.name, to: person?.name ?? candidate.send.to, chance: beyond, seen: false }]
        : []),
    ],
    rests: [...rests],
    tries: { answered: tries.answered, unanswered: tries.unanswered, inSilence: tries.inSilence },
    basis: seen ? 'evidence' : 'map',
    cautions: [...candidate.cautions],
    send: candidate.send,
  };
}

/** What came of earlier forecasts for the same addressee, where there were any. */
function theirsOf({ reckoned }: Candidate): PlannedWay['theirs'] {
  if (!reckoned?.theirs) return null;
  const { count, expected, happened } = reckoned.theirs;
  return { count, expected, happened };
}

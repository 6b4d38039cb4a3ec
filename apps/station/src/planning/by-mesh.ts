import {
  beliefOfDraws,
  counted,
  coupled,
  crossingChance,
  expectedRepeats,
  meanOf,
  meshAirTimeMs,
  meshTextFrameOctets,
  mostMeshTextOctets,
  octetsOfText,
  seeded,
  sharedOut,
  splitText,
  tried,
  worksAtAll,
  type RetryPolicy,
} from '@tombolo/core';
import type { Candidate, Excluded } from './candidate';
import type { Hop } from './hops';
import type { MeshCarriage, MeshNeighbourhood } from './mesh-hops';
import type { OwnTries } from './own-tries';

export interface MeshTo {
  readonly bearerId: string;
  readonly carriage: MeshCarriage;
  readonly node: string;
  readonly tag: string;
  readonly text: string;
  /** Hops over which it was heard last; null where it never was. */
  readonly hops: number | null;
  /** Who hears whom on the mesh; null while its radio is not set. */
  readonly neighbourhood: MeshNeighbourhood | null;
  readonly retry: RetryPolicy;
  readonly deadlineS: number | null;
  readonly queueS: number;
  readonly leftOfHourS: number | null;
  readonly tries: OwnTries;
}

/** The same question gives the same answer. */
const SEED = 20_261;
/** A text to a node of the mesh, on the first channel: a flood, which every node carries on that hears it. */
export function byMesh(mesh: MeshTo): { readonly candidates: Candidate[]; readonly excluded: Excluded[] } {
  const { carriage, node, neighbourhood, hops } = mesh;
  const tag = mesh.tag;
  const title = `Mesh, to node ${tag}`;
  const channel = carriage.channels[0];
  const exclude = (reason: string, remedy: string) => ({ candidates: [], excluded: [{ title, reason, remedy }] });
  if (!channel || !carriage.radio || !neighbourhood)
    return exclude('No frequency is set for the mesh.', 'Set it under Bearers.');
  const { radio } = carriage;
  const most = mostMeshTextOctets(channel.sealed);
  const split = octetsOfText(mesh.text).length <= most ? null : splitText(mesh.text, 'a', most);
  if (split && !split.ok)
    return exclude('The text is too long even for nine parts.', 'Make it shorter, or send it as mail.');
  const texts = split?.ok ? split.value : [mesh.text];
  const airS = texts.reduce(
    (sum, one) => sum + meshAirTimeMs(meshTextFrameOctets(one, channel.sealed), radio) / 1000,
    0,
  );
  if (mesh.leftOfHourS !== null && airS > mesh.leftOfHourS)
    return exclude(
      `It needs ${airS.toFixed(1)} s on the air, and ${mesh.leftOfHourS.toFixed(1)} s of the hour are left.`,
      'It can go when what was sent is an hour old.',
    );
  const { hops: known, repeaters, addresseeThere } = neighbourhood;
  const there = crossingChance(known, carriage.node, node, carriage.hopLimit, seeded(SEED));
  const back = crossingChance(known, node, carriage.node, carriage.hopLimit, seeded(SEED));
  if (there.links.length === 0)
    return exclude(
      `Node ${tag} was not heard in two days, and by the map no way over ${carriage.hopLimit} hops leads to it.`,
      'Listen until it is heard, put a node between, or raise the hop limit under Bearers.',
    );
  const shared = sharedOut(
    { there: beliefOfDraws(there.draws), back: beliefOfDraws(back.draws) },
    mesh.tries.weight.answered,
    mesh.tries.weight.unanswered,
  );
  const works = addresseeThere * worksAtAll(mesh.tries.weight, meanOf(shared.there) * meanOf(shared.back));
  const outcome = tried(shared.there, shared.back, {
    retry: mesh.retry,
    tries: mesh.retry.tries,
    overDigipeaters: false,
    queueS: mesh.queueS,
    airS,
    // Whoever hears others repeat it first stays silent: that is not reckoned, so that it is at most so much.
    repeatsS: airS * expectedRepeats(known, carriage.node, repeaters, carriage.hopLimit),
    crossesS: airS * (1 + (hops ?? carriage.hopLimit)),
    deadlineS: mesh.deadlineS,
    parts: texts.length,
    works,
  });
  const links: ReadonlySet<unknown> = new Set([...there.links, ...back.links]);
  const gone = known.filter((hop) => links.has(hop));
  const told = gone.filter((hop) => isTelling(hop, [carriage.node, node]));
  const tags = new Map([
    [carriage.node, carriage.tag],
    [node, tag],
    ...neighbourhood.nodes.map((one) => [one.node, one.tag] as const),
  ]);
  return {
    excluded: [],
    candidates: [
      {
        id: `${mesh.bearerId}/${node}`,
        title,
        how: `by mesh to node ${tag}${hops === null ? '' : hops === 0 ? ', in direct reach when it was heard' : `, heard over ${counted(hops, 'hop')}`}`,
        holder: { name: tag, beyond: null },
        arrival: outcome.arrival,
        arrives: outcome.arrives,
        together: {
          causes: new Map([[`node ${node}`, works]]),
          draws: coupled(outcome.arrivesDraws, there.draws),
        },
        proof: outcome.proven && {
          rung: 'delivered',
          proven: outcome.proven,
          by: `an acknowledgement from node ${tag}`,
        },
        airS: outcome.airS,
        works,
        answer: null,
        reckoned: null,
        rests: told.map(({ rests }) => named(rests, tags)),
        tries: mesh.tries,
        // A node can have been heard, and nothing be known of its way.
        otherwise: `node ${tag} was ${hops === null ? 'not heard yet' : 'heard, and nothing that counts tells of its way'}`,
        silences: neighbourhood.silences.map((words) => namedWords(words, tags)),
        cautions: [
          ...(hops === null ? ['That node was not heard yet: it is a guess.'] : []),
          ...(told.length < gone.length
            ? [
                `It may also go over ${counted(gone.length - told.length, 'hop')} between other nodes, of which nothing was heard: guesses from the map.`,
              ]
            : []),
        ],
        send: {
          way: { by: 'texts', bearerId: mesh.bearerId, channel: channel.name },
          to: node,
          inParts: texts.length > 1,
          command: null,
          broughtBy: null,
        },
        askable: null,
      },
    ],
  };
}

/** Whether something was heard of a hop, or it is ours or theirs: of all others there are as many as pairs of nodes. */
const isTelling = ({ from, to, rests: { heard, inferred, heardBack } }: Hop, ends: readonly string[]): boolean =>
  heard + inferred + heardBack > 0 || ends.includes(from) || ends.includes(to);

/** Nodes by what people call them: a number tells nobody anything. */
const namedWords = (words: string, tags: ReadonlyMap<string, string>): string =>
  [...tags].reduce((text, [number, tag]) => text.replaceAll(number, tag), words);

const named = (rests: Hop['rests'], tags: ReadonlyMap<string, string>): Hop['rests'] => ({
  ...rests,
  from: tags.get(rests.from) ?? rests.from,
  to: tags.get(rests.to) ?? rests.to,
  silence: rests.silence && namedWords(rests.silence, tags),
});

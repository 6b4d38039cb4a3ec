import {
  afterSilence,
  answersAtAll,
  beliefOfDraws,
  coupled,
  crossingChance,
  expectedRepeats,
  meanOf,
  MAX_MESSAGE_TEXT,
  octetsOfText,
  PATH_SCHOOLS,
  pathHops,
  PROBE_TEXT,
  seeded,
  sharedOut,
  tried,
  worksAtAll,
  type CrossingChance,
  type RetryPolicy,
} from '@tombolo/core';
import type { PlannedWay } from '@tombolo/contract';
import type { Candidate, Excluded, Holder } from './candidate';
import { type Hop, type Neighbourhood } from './hops';
import { hopsFor, type OwnRepeats } from './own-repeats';
import { spreadOfBelief } from './rests';
import { NO_TRIES, type OwnTries } from './own-tries';
import { frameS, partsOf } from './text-frames';

export interface RadioTo {
  readonly bearerId: string;
  readonly own: string;
  readonly to: string;
  /** Whose set answers there: of a service its gateway's, absent where it is their own. */
  readonly set?: string;
  readonly text: string;
  readonly txDelayMs: number;
  readonly retry: RetryPolicy;
  /** How often it is sent at most. */
  readonly tries: number;
  readonly deadlineS: number | null;
  /** Chance of something new for each second of channel that a repetition must bring; 0: whatever it costs. */
  readonly worthPerS: number;
  readonly queueS: number;
  /** Share of the channel that is taken, 0 to 1. */
  readonly load: number;
  readonly neighbourhood: Neighbourhood;
  /** What came of our own tries over a path. */
  readonly triesBy: (path: readonly string[]) => OwnTries;
  readonly repeats: OwnRepeats;
  /** Over how many digipeaters their own packets ask to go, as their answers will; null where that is not known. */
  readonly theirHops: number | null;
  readonly holder: Holder;
  /** A stranger was never heard here, and nobody noted it: the call may be mistyped. */
  readonly far: 'known' | 'stranger' | 'service';
  /** Names a way by a service. */
  readonly title: string;
  readonly how: string;
  readonly command: PlannedWay['send']['command'];
  readonly cautions: readonly string[];
}

/** Hops that a path gives, in how many words. */
const OVER: Readonly<Record<(typeof PATH_SCHOOLS)[number]['id'], string>> = {
  direct: 'direct',
  'fill-in only': 'over one digipeater',
  'one wide': 'over one high digipeater',
  'wide only': 'over up to two high digipeaters',
  'fill-in first': 'over up to two digipeaters, the first a fill-in',
};

/**
 * What hits a transmission wherever it is heard: half of those who send are not heard by us and do not wait for us, and a set may be off
 * for a moment (common practice, no source).
 */
const clearOf = (load: number): number => 0.97 * Math.exp(-load);

/** Who answers no surer than this, by any path, is not tried as often as is set by hand (measured over simulated seasons, no source). */
const HOPELESS = 0.003;

/** The same question gives the same answer. */
const SEED = 20_261;

/** Of those that come to the same the first stays: digipeaters of which nobody knows would repeat a longer one too. */
const SHORTEST_FIRST = [...PATH_SCHOOLS].sort((a, b) => pathHops(a.path) - pathHops(b.path));

/** A text by packet radio over each of the usual paths that have a chance. */
export function byPacketRadio(radio: RadioTo): { readonly candidates: Candidate[]; readonly excluded: Excluded[] } {
  const { own, to, text, neighbourhood, holder } = radio;
  const texts = partsOf(text);
  if (texts === null)
    return {
      candidates: [],
      excluded: [
        {
          title: radio.title,
          reason: `The text has ${octetsOfText(text).length} characters, more than nine texts of ${MAX_MESSAGE_TEXT} hold.`,
          remedy: 'Make it shorter, or send it as mail.',
        },
      ],
    };
  const backs = new Map<number, CrossingChance>();
  const crossings = SHORTEST_FIRST.flatMap(({ id, path }) => {
    const hops = pathHops(path);
    const backHops = radio.theirHops ?? hops;
    const known = withDirectTries(
      hopsFor(neighbourhood, own, path[0], radio.repeats),
      own,
      to,
      radio.triesBy([]).weight,
    );
    const there = crossingChance(known, own, to, hops, seeded(SEED));
    // Our own first hop, which the path decides, is on no way back.
    const back = backs.get(backHops) ?? crossingChance(known, to, own, backHops, seeded(SEED));
    backs.set(backHops, back);
    if (there.links.length === 0) return [];
    // A path that asks for digipeaters where none is known is tried like the one without.
    const alone = there.links.every((link) => link.to === to);
    const tries = radio.triesBy(alone ? [] : path);
    // What is repeated must be clear twice.
    const clear = clearOf(radio.load) ** (hops > 0 ? 2 : 1);
    const cleared = (draws: readonly number[]) => beliefOfDraws(draws.map((draw) => draw * clear));
    return [
      {
        id,
        path,
        hops,
        backHops,
        // Those that nobody knows yet may be there all the same.
        repeats: alone ? hops : expectedRepeats(known, own, neighbourhood.repeaters, hops),
        known,
        links: { there, back },
        alone,
        tries,
        there: cleared(there.draws),
        back: cleared(back.draws),
      },
    ];
  });
  // Whoever is off is so by every path: what was tried by one tells of the others.
  const byPath = PATH_SCHOOLS.map(({ id, path }) => ({
    tries: radio.triesBy(path),
    crossing: crossings.find((one) => one.id === id && !(one.alone && one.hops > 0)) ?? null,
  }));
  const answers = answersAtAll(
    byPath.map(({ tries, crossing }) => ({ ...tries.lasting, crossing })),
    radio.far === 'stranger',
  );
  // Who was not heard since may be away, or not answer: what came of tries since then tells of both.
  const theyAnswer = afterSilence(
    answers * neighbourhood.addresseeThere,
    byPath.map(({ tries, crossing }) => ({
      answered: tries.lasting.answered,
      unanswered: tries.sinceHeard,
      crossing,
    })),
  );
  const isHopeless = theyAnswer < HOPELESS;
  const candidates = crossings.map((crossing): Candidate => {
    const { id, path, hops, backHops, repeats, known, links, alone, tries, there, back } = crossing;
    // Those without a digipeater have told of the hop itself.
    const { answered, unanswered } = alone ? NO_TRIES.weight : tries.weight;
    const shared = sharedOut({ there, back }, answered, unanswered);
    // That a path does what is asked stays so for longer than the air stays as it is; that it was silent may have been the air.
    const shown = { answered: tries.lasting.answered, unanswered: tries.weight.unanswered };
    const pathWorks = worksAtAll(shown, meanOf(shared.there) * meanOf(shared.back));
    const works = theyAnswer * pathWorks;
    const questionS = frameS(PROBE_TEXT, radio, path);
    const airS = texts.reduce((sum, one) => sum + frameS(one, radio, path), 0);
    const {
      times,
      arrival,
      arrives,
      arrivesDraws,
      proven,
      provenDraws,
      airS: expectedAirS,
    } = tried(shared.there, shared.back, {
      retry: radio.retry,
      tries: radio.tries,
      overDigipeaters: hops > 0,
      queueS: radio.queueS,
      airS,
      repeatsS: airS * repeats,
      crossesS: airS * (1 + hops),
      deadlineS: radio.deadlineS,
      worthPerS: radio.worthPerS,
      least: isHopeless ? 0 : radio.retry.tries,
      parts: texts.length,
      works,
    });
    const seen = new Set([...links.there.links, ...links.back.links]);
    return {
      id: `${radio.bearerId}/${to}/${id}`,
      title: `${radio.title}, ${OVER[id]}`,
      how: `${radio.how}, ${OVER[id]}`,
      holder,
      arrival,
      arrives,
      together: {
        causes: new Map([
          [`${radio.set ?? to} answers`, theyAnswer],
          [`${to} by ${id}`, pathWorks],
          ...(holder.beyond ? [[`beyond ${holder.name}`, holder.beyond.arrival.chance] as const] : []),
        ]),
        draws: coupled(arrivesDraws, links.there.draws),
      },
      proof: proven && {
        rung: holder.beyond ? 'accepted' : 'delivered',
        proven,
        by: `an acknowledgement from ${to}`,
      },
      airS: expectedAirS,
      works,
      answer: proven && { hops: backHops, known: radio.theirHops !== null },
      reckoned: null,
      rests: known.filter((hop) => seen.has(hop)).map(openedNow),
      tries,
      otherwise: null,
      // Also of those that this way does not go over: they are why it does not.
      silences:
        radio.far === 'stranger'
          ? [`${to} was never heard here: is the call right?`, ...neighbourhood.silences]
          : neighbourhood.silences,
      cautions: radio.cautions,
      send: {
        way: {
          by: 'packets',
          bearerId: radio.bearerId,
          path: [...path],
          askAcknowledgement: true,
          // One try alone, for there is no time for more, is left to the deadline.
          ...(times > 1 && radio.command === null && { times }),
        },
        to,
        inParts: texts.length > 1,
        command: radio.command,
        broughtBy: null,
      },
      // A service is not asked: how it answers says nothing of whom it hands a text to. Without a digipeater every path is the direct one.
      askable:
        radio.far === 'service' || provenDraws === null || (alone && hops > 0)
          ? null
          : {
              probed: { question: provenDraws.one, text: provenDraws.all, works: pathWorks },
              answers: theyAnswer,
              // Sent until it is answered, like the text.
              questionS: (expectedAirS * questionS) / airS,
              // Whoever hears it acknowledges it, and tells the path.
              answerS: 2 * questionS * (1 + hops) * works * meanOf(shared.there),
            },
    };
  });
  return {
    candidates,
    excluded:
      candidates.length > 0
        ? []
        : [
            {
              title: radio.title,
              reason: `Nothing is known of ${to}: it was not heard in two days, and its place is not known.`,
              remedy: 'Listen until it is heard, or try it once by hand: a path can always be chosen below.',
            },
          ],
  };
}

/** Tries without a digipeater tell of the hop between us, whichever path is asked for. */
function withDirectTries(
  hops: readonly Hop[],
  own: string,
  to: string,
  { answered, unanswered }: OwnTries['weight'],
): readonly Hop[] {
  const there = hops.find((hop) => hop.from === own && hop.to === to);
  const back = hops.find((hop) => hop.from === to && hop.to === own);
  if (!there || !back || answered + unanswered === 0) return hops;
  const shared = sharedOut({ there: there.belief, back: back.belief }, answered, unanswered);
  return hops.map((hop) =>
    hop === there ? { ...hop, belief: shared.there } : hop === back ? { ...hop, belief: shared.back } : hop,
  );
}

/** What a hop rests on, with the chance that our own tries made of it. */
const openedNow = ({ rests, belief }: Hop): Hop['rests'] => ({ ...rests, chance: spreadOfBelief(belief) });

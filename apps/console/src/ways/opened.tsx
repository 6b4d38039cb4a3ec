import { OWN_TRIES_DAYS, type PlannedWay } from '@tombolo/contract';
import { counted, ofHundred } from '@tombolo/core';
import { Instant } from '../ui/clock';
import { Stack } from '../ui/layout';
import { Body, Mono } from '../ui/text';
import { theirsInWords } from './theirs-in-words';

/** What the chance of a way rests on, hop by hop, down to how often it was heard. */
export function Opened({ way }: { way: PlannedWay }) {
  const { rests, tries, cautions, arrives, proof } = way;
  return (
    <Stack gap={8} above={8}>
      <Body soft>
        {`${ofHundred(arrives.low)} to ${ofHundred(arrives.high)} of 100 is what may be, in nine of ten cases${proof ? `; “${proof.rung}” proved ${ofHundred(proof.proven.low)} to ${ofHundred(proof.proven.high)}` : ''}. About ${way.airS.toFixed(1)} s of the channel, repeats and retries included.${timesWords(way)}`}
      </Body>
      {way.works === null ? null : (
        <Body soft>
          {`That it works at all, however often it is tried – the path is right, their set is on, they answer texts –: ${ofHundred(way.works)} of 100, by all that was tried and by how they are heard.`}
        </Body>
      )}
      {way.answer === null ? null : <Body soft>{answerWords(way.answer)}</Body>}
      {way.reckoned === null ? null : (
        <Body soft>
          {`Reckoned were ${ofHundred(way.reckoned)} of 100; ${ofHundred(arrives.chance)} are told, for that is how earlier forecasts came out.${theirsWords(way)}`}
        </Body>
      )}
      {rests.length > 0 ? <Body soft>At most six of an hour count, and the older they are the less.</Body> : null}
      {rests.length > 0 ? (
        <Stack role="list" aria-label="What it rests on" gap={8}>
          {rests.map((hop) => (
            <Stack key={`${hop.from}>${hop.to}`} role="listitem" cited>
              <Mono bold>{`${hop.from} → ${hop.to}`}</Mono>
              <Body>
                {`${ofHundred(hop.chance.chance)} of 100 (${ofHundred(hop.chance.low)} to ${ofHundred(hop.chance.high)})`}
              </Body>
              <Body soft>{heardWords(hop)}</Body>
              {hop.ours ? <Body soft>{oursWords(hop.ours)}</Body> : null}
              {hop.silence ? <Body>{hop.silence}</Body> : null}
              {hop.lastAt ? (
                <Body soft>
                  Last heard <Instant iso={hop.lastAt} />
                </Body>
              ) : null}
              <Body soft>{`Before that: ${ofHundred(hop.before.chance)} of 100. ${hop.before.words}`}</Body>
            </Stack>
          ))}
        </Stack>
      ) : null}
      <Body soft>
        {tries.answered + tries.unanswered > 0
          ? `Our own tries in ${OWN_TRIES_DAYS} days: ${tries.answered} answered, ${tries.unanswered} not.${silentWords(tries)}`
          : `No try of our own in ${OWN_TRIES_DAYS} days.`}
      </Body>
      {cautions.map((caution) => (
        <Body key={caution}>{caution}</Body>
      ))}
    </Stack>
  );
}

/** Tries that tell that they were away rather than that they do not answer. */
const silentWords = ({ inSilence }: PlannedWay['tries']): string =>
  inSilence === 0
    ? ''
    : ` Of these ${inSilence} ${inSilence === 1 ? 'was' : 'were'} sent while nothing was heard of them, and ${inSilence === 1 ? 'counts' : 'count'} for little.`;

/** What became of our own packets at that hop. */
const oursWords = ({ element, sent, repeated }: NonNullable<PlannedWay['rests'][number]['ours']>): string =>
  element === null
    ? `Of ${counted(sent, 'transmission')} of ours on this mesh in a day, somebody was heard repeating or answering ${repeated}: nobody tells who it was, so it is shared out.`
    : `Of ${counted(sent, 'packet')} of ours in a day that asked for ${element} first, ${repeated} ${repeated === 1 ? 'was' : 'were'} heard repeated by it.`;

/** What came of those for the same addressee, which count besides those for everybody. */
const theirsWords = ({ theirs, strips: [first] }: PlannedWay): string =>
  theirs === null || !first ? '' : ` To ${first.to} alone, ${theirsInWords(theirs)}.`;

/** How its answer is taken to come. */
function answerWords({ hops, known }: NonNullable<PlannedWay['answer']>): string {
  const over = hops === 0 ? 'without a digipeater' : `over up to ${counted(hops, 'digipeater')}`;
  return known
    ? `Its answer is reckoned ${over}, as their own packets ask.`
    : `Its answer is reckoned ${over}, like ours: what their packets ask for was not heard in two days.`;
}

/** How often it is sent, where that was reckoned. */
const timesWords = ({ send: { way } }: PlannedWay): string =>
  way.by === 'packets' && way.times !== undefined ? ` Sent up to ${way.times} times.` : '';

const times = (n: number): string => (n === 1 ? 'once' : `${n} times`);

function heardWords({
  heard,
  inferred,
  missed,
  passedOver,
  heardBack,
  missedBack,
}: PlannedWay['rests'][number]): string {
  const parts = [
    heard > 0 ? `heard ${times(heard)} in two days` : null,
    inferred > 0 ? `${times(inferred)} likely` : null,
    missed > 0 ? `${times(missed)} not, although another road proves that it was sent` : null,
    passedOver > 0
      ? `not repeated by it while another did, which counts as ${counted(passedOver, 'miss', 'misses')}`
      : null,
    heardBack > 0 ? `heard the other way ${times(heardBack)}, which counts for less` : null,
    missedBack > 0 ? `missed the other way ${times(missedBack)}` : null,
  ].filter((part) => part !== null);
  return parts.length === 0 ? 'Nothing was heard of it.' : `${parts.join('; ')}.`.replace(/^./, (c) => c.toUpperCase());
}

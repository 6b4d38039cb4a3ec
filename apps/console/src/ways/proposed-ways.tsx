import { TRIED_HERE, VIRTUES, type PlannedWay, type WaysView } from '@tombolo/contract';
import { aboutTime, counted, ofHundred } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { useDraft } from '../drafts/drafts';
import { useBearers } from '../live/queries';
import { Button } from '../ui/button';
import { Causeway } from '../ui/causeway';
import { Row, Stack } from '../ui/layout';
import { Measured } from '../ui/measured';
import { Body, Heading, Mono } from '../ui/text';
import { AskFirstCard } from './ask-first';
import { isTaken, partOf, takingWay } from './chosen';
import { Opened } from './opened';
import { eitherWords, isUrgent, secondWay } from './second-way';
import { useWaysOfDraft } from './use-ways';

/** Of one way on a phone. */
const USUAL_HEIGHT_PX = 380;
/** So many virtues at once are all that can be had. */
const ALL_VIRTUES = VIRTUES.length - 1;

/** Under the text: which way will most likely arrive, why, and what else there is. Nothing is sent from here. */
export function ProposedWays() {
  const [all, setAll] = useState(false);
  const { to, ways } = useWaysOfDraft();
  if (to === '') return null;
  return (
    <Stack role="region" aria-label="Ways" below={16}>
      <Heading level={2}>Ways</Heading>
      {ways.data ? (
        <Compared view={ways.data} whom={to} all={all} setAll={setAll} />
      ) : (
        // As high as what will stand there, so that what is below stays where a finger expects it.
        <Body soft minHeight={ways.isError ? 0 : USUAL_HEIGHT_PX}>
          {ways.isError
            ? `The ways cannot be told now: ${ways.error.message} You can send all the same.`
            : 'Reckoning the ways …'}
        </Body>
      )}
    </Stack>
  );
}

interface ComparedProps {
  view: WaysView;
  whom: string;
  all: boolean;
  setAll: (all: boolean) => void;
}

function Compared({ view, whom, all, setAll }: ComparedProps) {
  const { ways, excluded, person, cut, askFirst } = view;
  const shown = all ? ways : ways.slice(0, 1);
  const more = ways.length - 1;
  return (
    <Stack gap={12}>
      {ways.length === 0 ? <Body bold>No way is known.</Body> : null}
      {shown.length > 0 ? (
        <Stack role="list" aria-label="Proposed ways" gap={12}>
          {shown.map((way, n) => (
            <WayCard key={way.id} way={way} first={n === 0} person={person} whom={person ?? whom} />
          ))}
        </Stack>
      ) : null}
      <SecondLater ways={ways} person={person} />
      {all || ways.length === 0
        ? excluded.map(({ title, reason, remedy }) => (
            <View key={title}>
              <Body bold>{`Not: ${title}`}</Body>
              <Body soft>{`${reason} ${remedy}`}</Body>
            </View>
          ))
        : null}
      {all && cut ? <Body soft>There are more ways than were compared.</Body> : null}
      {ways.length > 0 && more + excluded.length > 0 ? (
        <Button
          title={
            all
              ? 'Show only what is proposed'
              : more > 0
                ? `Compare ${counted(more, 'other way')}`
                : `Why ${counted(excluded.length, 'way')} ${excluded.length === 1 ? 'does' : 'do'} not go`
          }
          kind="plain"
          onPress={() => setAll(!all)}
        />
      ) : null}
      {askFirst && (all || ways[0]?.basis === 'map') ? <AskFirstCard asked={askFirst} person={person} /> : null}
    </Stack>
  );
}

/** Only its item offers a second way: that of a mail does not, that of a service knows only the service, and a part is not the text. */
const isOneText = ({ send: { way, command, inParts } }: PlannedWay): boolean =>
  TRIED_HERE.has(way.by) && command === null && !inParts;

/** Of what is urgent: which second way will be offered once it is queued. */
function SecondLater({ ways, person }: Pick<WaysView, 'ways' | 'person'>) {
  const draft = useDraft();
  const bearers = useBearers().data ?? [];
  if (!isUrgent(draft.precedence)) return null;
  const first = ways.find((way) => {
    const part = partOf(way, bearers);
    return part !== null && isOneText(way) && isTaken(draft, way, part, person);
  });
  const second = first && secondWay(ways, [first.send.way.by], bearers);
  if (!second) return null;
  return (
    <Body>
      {`It is urgent: once it is queued, and until somebody has it, its item offers a second way: ${second.title}. With both, ${eitherWords(first, second)}`}
    </Body>
  );
}

interface WayCardProps {
  way: PlannedWay;
  first: boolean;
  /** Whom of the list of people it is for, and as what they were asked for. */
  person: string | null;
  whom: string;
}

function WayCard({ way, first, person, whom }: WayCardProps) {
  const draft = useDraft();
  const bearers = useBearers();
  const [open, setOpen] = useState(false);
  const part = partOf(way, bearers.data ?? []);
  const taken = part !== null && isTaken(draft, way, part, person);
  const road = {
    stones: [way.strips[0]?.from ?? 'you', ...way.strips.map(({ to }) => to)].map((label) => ({ label, known: true })),
    strips: way.strips.map(() => ({ state: 'planned' as const, evidence: [], inferred: false })),
  };
  return (
    <Stack role="listitem" framed={taken ? 'tide' : 'rule'} frameWidth={taken ? 2 : 1} rounded={4} pad={12} gap={8}>
      <Row wrap columnGap={12}>
        <Body bold shrink={1}>
          {way.title}
        </Body>
        <Body soft>{way.virtues.length >= ALL_VIRTUES ? 'ahead in everything' : way.virtues.join(', ')}</Body>
      </Row>
      <Measured>
        {(width) => (
          <Causeway
            road={road}
            width={width}
            large
            notes={way.strips.map(({ chance, seen }) => `${seen ? '' : 'guess '}${ofHundred(chance)}/100`)}
          />
        )}
      </Measured>
      <Body>{way.sentences[0]}</Body>
      <Body soft>{way.sentences[1]}</Body>
      {way.afterFirst === null ? null : (
        <Body
          soft
        >{`If what is proposed does not arrive, this still does in at most about ${ofHundred(way.afterFirst)} of 100.`}</Body>
      )}
      <Mono soft>{`${way.airS.toFixed(1)} s on the air · usually after ${aboutTime(way.expectedS)}`}</Mono>
      {open ? <Opened way={way} /> : null}
      <Row wrap gap={8}>
        {taken ? (
          <Body bold self="center">
            {first ? 'What you have chosen is what is proposed.' : 'This is what you have chosen.'}
          </Body>
        ) : part !== null ? (
          <Button
            title="Take this way"
            kind="plain"
            about={way.title}
            onPress={() => draft.change(takingWay(way, part, person, whom, draft.body))}
          />
        ) : null}
        <Button
          title={open ? 'Close' : 'What it rests on'}
          kind="plain"
          about={way.title}
          onPress={() => setOpen(!open)}
        />
      </Row>
    </Stack>
  );
}

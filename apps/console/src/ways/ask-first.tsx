import type { AskFirst, WaysView } from '@tombolo/contract';
import { counted, ofHundred } from '@tombolo/core';
import { router } from 'expo-router';
import { useDrafts } from '../drafts/drafts';
import { useBearers } from '../live/queries';
import { Button } from '../ui/button';
import { Stack } from '../ui/layout';
import { Body, Heading } from '../ui/text';
import { partOf, takingWay } from './chosen';

/** A short question to the far set that would tell most of the ways to it. It becomes a text of its own; nothing is sent by itself. */
export function AskFirstCard({ asked, person }: { asked: AskFirst; person: WaysView['person'] }) {
  const bearers = useBearers();
  const part = partOf(asked, bearers.data ?? []);
  if (part === null) return null;
  const { to } = asked.send;
  return (
    <Stack role="region" aria-label="Ask first" gap={8} align="start">
      <Heading level={3}>Ask first?</Heading>
      <Body>{`Ask ${to} which path it hears you by: ${asked.title}. A set that takes texts acknowledges it by itself, and may tell the path; nobody has to be there.`}</Body>
      <Body soft>
        {`About ${asked.airS.toFixed(1)} s of the channel, retries and its answer included. Answered or not, it is expected to settle ${ofHundred(asked.settles)} of 100 of what is open about ${asked.ways === 1 ? 'the way' : counted(asked.ways, 'way')} to it.`}
      </Body>
      <Button
        title={`Write ${asked.text} as a text of its own`}
        kind="plain"
        onPress={() => {
          const { startAnew, change } = useDrafts.getState();
          const draft = startAnew();
          change(takingWay(asked, part, person, person ?? to, asked.text));
          router.navigate(`/write?draft=${draft}`);
        }}
      />
    </Stack>
  );
}

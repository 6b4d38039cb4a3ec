import { router } from 'expo-router';
import { View } from 'react-native';
import { draftInWords, isWritten, type Draft } from '../../drafts/draft';
import { useDrafts } from '../../drafts/drafts';
import { Button } from '../../ui/button';
import { useNow } from '../../ui/clock';
import { Row } from '../../ui/layout';
import { Link } from '../../ui/link';
import { Rule } from '../../ui/page';
import { Body, Heading } from '../../ui/text';
import { age } from '../../ui/time';

/** What can be done with the draft, and what else is being written on this device. */
export function OtherDrafts() {
  const { drafts, open, past, undo, discard, startAnew } = useDrafts();
  const others = Object.values(drafts)
    .filter((draft) => draft.id !== open && isWritten(draft))
    .sort((a, b) => b.changedAtMs - a.changedAtMs);
  const written = drafts[open] !== undefined && isWritten(drafts[open]);
  return (
    <View>
      <Row wrap gap={8} above={16}>
        <Button
          title="Undo"
          icon="undo"
          kind="plain"
          disabled={past.length === 0 ? 'There is nothing to undo.' : false}
          onPress={undo}
        />
        <Button
          title="Throw away"
          kind="plain"
          disabled={written ? false : 'Nothing is written yet.'}
          onPress={() => discard(open)}
        />
        <Button
          title="Write another"
          icon="plus"
          kind="plain"
          disabled={written ? false : 'Nothing is written yet.'}
          onPress={() => router.navigate(`/write?draft=${startAnew()}`)}
        />
      </Row>
      {others.length > 0 ? (
        <>
          <Rule />
          <Heading level={2}>Also being written</Heading>
          <Body soft>Kept on this device until it is sent or thrown away.</Body>
          <View role="list" aria-label="Drafts">
            {others.map((draft) => (
              <DraftRow key={draft.id} draft={draft} discard={() => discard(draft.id)} />
            ))}
          </View>
        </>
      ) : null}
    </View>
  );
}

function DraftRow({ draft, discard }: { draft: Draft; discard: () => void }) {
  const now = useNow(60_000);
  const words = draftInWords(draft);
  return (
    <Row role="listitem" gap={8} ruled align="center">
      <Link href={`/write?draft=${draft.id}`} fill minWidth={0} minHeight={48} padY={8}>
        <Body numberOfLines={2}>{words}</Body>
        <Body soft>{`${age(new Date(draft.changedAtMs).toISOString(), now)} ago`}</Body>
      </Link>
      <Button title="Throw away" about={words} kind="plain" onPress={discard} />
    </Row>
  );
}

import type { ItemSummary } from '@tombolo/contract';
import { exportRoutes } from '@tombolo/contract/routes/exports';
import { router } from 'expo-router';
import { useDeferredValue, useMemo, useState } from 'react';
import { FlatList } from 'react-native';
import { useDrafts } from '../../../drafts/drafts';
import { urlOf } from '../../../live/ask';
import { KnownOf } from '../../../live/known-of';
import { useBearers, useConversation, usePeople } from '../../../live/queries';
import { useServices } from '../../../live/services';
import { isUnread, readKey, useReadMarks, useUnread } from '../../../live/read-marks';
import { useTimeWords } from '../../../live/preferences';
import { filling } from '../../../ui/filling';
import { Button } from '../../../ui/button';
import { Causeway } from '../../../ui/causeway';
import { Field } from '../../../ui/field';
import { Link } from '../../../ui/link';
import { Empty, Trouble, Waiting } from '../../../ui/page';
import { ShowOlder } from '../../../ui/show-older';
import { TakeAlong } from '../../../ui/take-along';
import { Body, Heading, Mono } from '../../../ui/text';
import { useNow } from '../../../ui/clock';
import { Row, Stack } from '../../../ui/layout';
import { saveFile } from '../../log/save';
import { personOf, servicesTo, waysTo, type WayTo } from './ways-to';

/** All that passed with one station, person or group, over every bearer, newest first; and the ways to write to them. */
export function ConversationPlace({ who }: { who: string }) {
  const [search, setSearch] = useState('');
  const wanted = useDeferredValue(search.trim());
  const items = useConversation(who, wanted);
  const people = usePeople();
  const bearers = useBearers();
  const services = useServices();
  const { writeTo, startAnew, change } = useDrafts();
  const marks = useReadMarks();
  const rows = useMemo(() => items.data?.pages.flatMap((page) => page.rows) ?? [], [items.data]);
  const person = personOf(who, people.data ?? []);
  const last = rows.find(({ direction }) => direction === 'in');
  const ways = [
    ...servicesTo(person, services.data ?? []),
    ...waysTo(who, people.data ?? [], bearers.data ?? []),
    // The way that the last one came comes first: there it was heard.
  ].sort((a, b) => Number(b.addressee === last?.sender) - Number(a.addressee === last?.sender));
  const write = ({ addressee, way, command }: WayTo) => {
    if (!command) return writeTo({ addressee, way, answers: null });
    const draft = startAnew();
    change({ way });
    change({ addressee, command: command.id, values: { ...command.values } });
    return draft;
  };
  const unread = rows.filter((item) => isUnread(item, marks));
  return (
    <FlatList
      style={filling}
      data={rows}
      keyExtractor={({ id }) => id}
      ListHeaderComponent={
        <Stack pad={16} padBottom={8}>
          <Heading level={1}>{`With ${person?.name ?? who}`}</Heading>
          <Body soft below={12}>
            {person
              ? person.addresses.map(({ address }) => address).join(' · ')
              : 'Not on the list of people: known by this address alone.'}
          </Body>
          <KnownOf who={who} />
          <Row role="group" aria-label="Write" wrap gap={8} below={8}>
            {ways.map((one, n) => (
              <Button
                key={`${one.way} ${one.addressee} ${one.command?.id ?? ''}`}
                title={`Write by ${one.title[0]!.toLowerCase()}${one.title.slice(1)}`}
                about={one.addressee}
                kind={n === 0 ? 'main' : 'plain'}
                onPress={() => router.navigate(`/write?draft=${write(one)}`)}
              />
            ))}
            {unread.length > 0 ? (
              <Button
                title={`Read up to here`}
                about={`${unread.length} new`}
                kind="plain"
                onPress={() => marks.markRead(...unread.map(readKey))}
              />
            ) : null}
          </Row>
          <Field label="Search in this" value={search} onChangeText={setSearch} />
          {rows.length > 0 ? (
            <Row wrap gap={8} align="center">
              <TakeAlong text={conversationAsText(rows)} about="what is shown of it" print />
              <Button
                title="Save all as PDF"
                icon="download-outline"
                kind="plain"
                onPress={() => saveFile(urlOf(exportRoutes.conversation, { query: { with: who } }))}
              />
            </Row>
          ) : null}
          {items.isPending ? <Waiting what="what passed" /> : null}
          {items.isError ? <Trouble error={items.error} retry={() => void items.refetch()} /> : null}
        </Stack>
      }
      ListEmptyComponent={
        items.data ? (
          <Stack pad={16}>
            <Empty icon="swap-horizontal" title={wanted ? 'Nothing matches' : 'Nothing passed yet'}>
              {wanted ? 'Try another word.' : 'What is sent to them or comes from them appears here.'}
            </Empty>
          </Stack>
        ) : null
      }
      renderItem={({ item }) => <Line item={item} />}
      ListFooterComponent={
        <Stack pad={16}>
          <ShowOlder list={items} />
        </Stack>
      }
    />
  );
}

/** What passed as plain text, oldest first: to paste elsewhere, whole dates in UTC. */
export const conversationAsText = (rows: readonly ItemSummary[]): string =>
  `${[...rows]
    .reverse()
    .map(
      ({ createdAt, direction, sender, addressee, subject, body, status }) =>
        `${createdAt.slice(0, 10)} ${createdAt.slice(11, 16)}Z ${direction === 'out' ? `to ${addressee}` : `from ${sender}`}: ${subject ? `${subject} – ` : ''}${body} [${status.words}]`,
    )
    .join('\n')}\n`;

/** One line: who said it, all of its words, its road and how far it came. */
function Line({ item }: { item: ItemSummary }) {
  const timeWords = useTimeWords();
  const now = useNow(60_000);
  const unread = useUnread(item);
  const ours = item.direction === 'out';
  return (
    <Link href={`/traffic/${item.id}`} padY={10} padX={13} gap={4} ruled mark={ours ? 'sand' : 'tide'}>
      <Row wrap gap={8}>
        <Mono bold>{ours ? `to ${item.addressee}` : `from ${item.sender}`}</Mono>
        <Mono soft>{timeWords(item.createdAt, now)}</Mono>
      </Row>
      <Body bold={unread}>
        {unread ? 'New: ' : ''}
        {item.subject ? `${item.subject} – ${item.body}` : item.body}
      </Body>
      <Row align="center" gap={10}>
        {item.causeway ? <Causeway road={item.causeway} width={104} /> : null}
        <Body soft fill>
          {item.status.words}
        </Body>
      </Row>
    </Link>
  );
}

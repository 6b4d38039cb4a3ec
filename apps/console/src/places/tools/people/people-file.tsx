import { personChange, type Person, type PersonChange } from '@tombolo/contract';
import { peopleRoutes } from '@tombolo/contract/routes/people';
import { counted, MOST_CARD_FILE_OCTETS, writePeopleTable, writeVcards } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { z } from 'zod';
import { ask } from '../../../live/ask';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { FileButton } from '../../../ui/file-button';
import { Row, Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { saveText } from '../../log/save';
import { planPeople, readPeopleFile, type FromFile } from './from-file';

const MOST_SHOWN = 12;

/** Who was changed by a file as they were, and who came by it. */
interface Before {
  readonly people: readonly Person[];
  readonly without: readonly string[];
}
const beforeOf = (kept: FromFile['keep'], people: readonly Person[]): Before => ({
  people: people.filter(({ id }) => kept.some((one) => one.id === id)),
  without: kept.filter(({ isNew }) => isNew).map(({ id }) => id),
});

/** The list as a file, out and in; what a file would change is shown before it is kept. */
export function PeopleFile({ people }: { people: readonly Person[] }) {
  const [read, setRead] = useState<FromFile | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [before, setBefore] = useState<Before | null>(null);
  const keep = useChange(
    (list: FromFile['keep']) =>
      ask(peopleRoutes.keepPeople, { body: { people: list.map(({ isNew: _, ...person }) => person), without: [] } }),
    ['people', 'relays'],
  );
  const takeBack = useChange(
    ({ people: before, without }: Before) => {
      const put = before.map((person) => personChange.extend({ id: z.uuid() }).parse(person));
      return ask(peopleRoutes.keepPeople, { body: { people: put, without: [...without] } });
    },
    ['people', 'relays'],
  );
  const choose = async (file: File) => {
    keep.reset();
    takeBack.reset();
    setRead(null);
    if (file.size > MOST_CARD_FILE_OCTETS) return setFault('It is larger than 1 MB: no list of people is.');
    const told = readPeopleFile(await file.text());
    if (!told.ok) return setFault(told.error.reason);
    setFault(null);
    setRead(planPeople(people, told.value, () => crypto.randomUUID()));
  };
  return (
    <View>
      <Heading level={2}>As a file</Heading>
      <Body soft below={8}>
        vCards, as telephones and mail programs write them, or a table with the columns name, licensed, call, phone,
        mail, node, board and agreement. Of whoever is on the list already, the addresses that are not in the file are
        kept.
      </Body>
      <Row wrap gap={8}>
        <FileButton
          title="Read a file"
          icon="file-outline"
          kind="plain"
          label="File of people"
          accept=".vcf,.csv,text/vcard,text/csv"
          onFile={(file) => void choose(file)}
        />
        <Button
          title="Save as vCards"
          icon="download-outline"
          kind="plain"
          disabled={people.length === 0 ? 'There is nobody to save yet.' : false}
          onPress={() => saveText('people.vcf', 'text/vcard', writeVcards(people))}
        />
        <Button
          title="Save as a table"
          icon="download-outline"
          kind="plain"
          disabled={people.length === 0 ? 'There is nobody to save yet.' : false}
          onPress={() => saveText('people.csv', 'text/csv', writePeopleTable(people))}
        />
      </Row>
      <Stack aria-live="polite" above={8}>
        {fault ? (
          <Notice kind="alarm" title="Nothing was read">
            {fault}
          </Notice>
        ) : null}
        {read ? (
          <WhatItChanges
            read={read}
            busy={keep.isPending}
            keep={() =>
              keep.mutate(read.keep, {
                onSuccess: () => {
                  setRead(null);
                  setBefore(beforeOf(read.keep, people));
                },
              })
            }
            leave={() => setRead(null)}
          />
        ) : null}
        {keep.isError ? (
          <Notice kind="alarm" title="Nobody was kept">
            {keep.error.message}
          </Notice>
        ) : null}
        {keep.isSuccess && !read && !takeBack.isSuccess ? (
          <Stack gap={8}>
            <Body>{`Kept: ${counted(keep.data.length, 'person', 'people')}.`}</Body>
            {before ? (
              <Button
                title="Take the file back"
                kind="plain"
                busy={takeBack.isPending}
                onPress={() => takeBack.mutate(before)}
              />
            ) : null}
          </Stack>
        ) : null}
        {takeBack.isSuccess ? <Body>What the file changed is taken back.</Body> : null}
        {takeBack.isError ? (
          <Notice kind="alarm" title="Not taken back">
            {takeBack.error.message}
          </Notice>
        ) : null}
      </Stack>
    </View>
  );
}

function WhatItChanges({
  read: { keep: people, same, left },
  busy,
  keep,
  leave,
}: {
  read: FromFile;
  busy: boolean;
  keep: () => void;
  leave: () => void;
}) {
  const added = people.filter(({ isNew }) => isNew);
  const changed = people.filter(({ isNew }) => !isNew);
  return (
    <Notice title="What the file would change">
      <Named words="New" people={added} />
      <Named words="With more or other addresses" people={changed} />
      {same > 0 ? <Body>{`On the list just so: ${counted(same, 'person', 'people')}.`}</Body> : null}
      {left.length > 0 ? (
        <View role="list" aria-label="Left out">
          <Body bold>Left out</Body>
          {left.slice(0, MOST_SHOWN).map((line, n) => (
            <View role="listitem" key={`${n} ${line}`}>
              <Body>{line}</Body>
            </View>
          ))}
          {left.length > MOST_SHOWN ? (
            <View role="listitem">
              <Body>{`and ${left.length - MOST_SHOWN} more`}</Body>
            </View>
          ) : null}
        </View>
      ) : null}
      <Row wrap gap={8} above={8}>
        {people.length > 0 ? (
          <Button title={`Keep ${counted(people.length, 'person', 'people')}`} busy={busy} onPress={keep} />
        ) : null}
        <Button title="Leave the file" kind="plain" onPress={leave} />
      </Row>
    </Notice>
  );
}

function Named({ words, people }: { words: string; people: readonly PersonChange[] }) {
  if (people.length === 0) return null;
  const names = people.slice(0, MOST_SHOWN).map(({ name }) => name);
  const more = people.length - names.length;
  return <Body>{`${words}: ${names.join(', ')}${more > 0 ? ` and ${more} more` : ''}.`}</Body>;
}

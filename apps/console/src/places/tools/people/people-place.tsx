import type { Person, PersonChange } from '@tombolo/contract';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../../../live/api';
import { useChange, usePeople } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Row, Stack } from '../../../ui/layout';
import { Empty, Notice, Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { Body } from '../../../ui/text';
import { broughtByWords } from './brought-by';
import { PeopleFile } from './people-file';
import { PersonForm } from './person-form';
import { TacticalNames } from './tactical-names';

/** People who are reached through this station, each by all addresses that are known. */
export function PeoplePlace() {
  const people = usePeople();
  const [changing, setChanging] = useState<Person | null>(null);
  const [newId, setNewId] = useState(() => crypto.randomUUID());
  const [removed, setRemoved] = useState<Person | null>(null);
  const keep = useChange(api.keepPerson, ['people', 'relays']);
  const remove = useChange((person: Person) => api.removePerson(person.id), ['people', 'relays']);
  const kept = (id: string) => (change: PersonChange) =>
    keep.mutate(
      { id, ...change },
      {
        onSuccess: () => {
          setNewId(crypto.randomUUID());
          setChanging(null);
        },
      },
    );
  return (
    <Page title="People">
      <Body soft below={12}>
        Whoever an item can be handed on to. A text that begins with a name and a colon is offered to that person first.
        Several addresses of one sort are written with commas between; the first is used first.
      </Body>
      {people.isPending ? <Waiting what="people" /> : null}
      {people.isError ? <Trouble error={people.error} retry={() => void people.refetch()} /> : null}
      {people.data?.length === 0 ? (
        <Empty icon="account-outline" title="Nobody yet">
          Enter the people your net serves, and how each is reached. The list stays on this station.
        </Empty>
      ) : null}
      <View role="list" aria-label="People">
        {people.data?.map((person) => (
          <PersonRow
            key={person.id}
            person={person}
            people={people.data}
            busy={remove.isPending}
            change={() => setChanging(person)}
            remove={() => remove.mutate(person, { onSuccess: () => setRemoved(person) })}
          />
        ))}
      </View>
      {removed ? (
        <Notice title={`${removed.name} is off the list`}>
          <Button
            title="Put back"
            about={removed.name}
            kind="plain"
            busy={keep.isPending}
            onPress={() => keep.mutate(removed as Person & PersonChange, { onSuccess: () => setRemoved(null) })}
          />
        </Notice>
      ) : null}
      {remove.isError ? (
        <Notice kind="alarm" title="Not removed">
          {remove.error.message}
        </Notice>
      ) : null}
      <PersonForm
        key={changing?.id ?? newId}
        person={changing}
        people={people.data ?? []}
        busy={keep.isPending}
        trouble={keep.isError ? keep.error.message : null}
        keep={kept(changing?.id ?? newId)}
        leave={changing ? () => setChanging(null) : undefined}
      />
      {people.data ? (
        <>
          <Rule />
          <TacticalNames />
          <Rule />
          <PeopleFile people={people.data} />
        </>
      ) : null}
    </Page>
  );
}

interface PersonRowProps {
  person: Person;
  people: readonly Person[];
  busy: boolean;
  change: () => void;
  remove: () => void;
}

function PersonRow({ person, people, busy, change, remove }: PersonRowProps) {
  const ways = person.addresses.map(({ sort, address }) => (sort === 'node' ? `node ${address}` : address));
  return (
    <Row role="listitem" wrap gap={8} align="center" padY={8} ruled>
      <Stack grow={1} basis={200}>
        <Body bold>{person.name}</Body>
        <Body soft>{[...ways, person.licensed ? 'licensed' : 'no licence'].join(' · ')}</Body>
        {person.broughtBy.length > 0 ? (
          <Body>{`Brought to them by hand, by ${broughtByWords(person.broughtBy, people)}`}</Body>
        ) : null}
        {person.agreement ? <Body>{`Agreed: ${person.agreement}`}</Body> : null}
      </Stack>
      <Row gap={8}>
        <Button
          title="What passed"
          about={person.name}
          kind="plain"
          href={`/traffic/with?who=${encodeURIComponent(person.name)}`}
        />
        <Button title="Change" about={person.name} kind="plain" onPress={change} />
        <Button title="Remove" about={person.name} kind="plain" busy={busy} onPress={remove} />
      </Row>
    </Row>
  );
}

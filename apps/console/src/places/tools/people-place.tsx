import { person as personSchema, type Person } from '@tombolo/contract';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../../live/api';
import { useChange, useSettings } from '../../live/queries';
import { Button } from '../../ui/button';
import { CheckRow } from '../../ui/choice';
import { Field } from '../../ui/field';
import { useLook } from '../../ui/look';
import { Empty, Notice, Page, Trouble, Waiting } from '../../ui/page';
import { Body, Heading } from '../../ui/text';

const BLANK = { name: '', phone: '', mail: '', meshNode: '', licensed: false };

/** People who are reached through this station, and by which ways. */
export function PeoplePlace() {
  const look = useLook();
  const settings = useSettings();
  const [entry, setEntry] = useState(BLANK);
  const save = useChange((people: Person[]) => api.changeSettings({ people }), ['settings', 'relays']);
  const orNull = (text: string) => (text.trim() === '' ? null : text.trim());
  const checked = personSchema.safeParse({
    ...entry,
    phone: orNull(entry.phone),
    mail: orNull(entry.mail),
    meshNode: orNull(entry.meshNode)?.toUpperCase() ?? null,
  });
  const problem = (field: keyof typeof BLANK) =>
    entry[field] === '' ? undefined : checked.error?.issues.find(({ path }) => path[0] === field)?.message;
  const people = settings.data?.people ?? [];
  return (
    <Page title="People">
      <Body soft style={{ marginBottom: 12 }}>
        Whoever an item can be handed on to. A text that begins with a name and a colon is offered to that person first.
      </Body>
      {settings.isPending ? <Waiting what="people" /> : null}
      {settings.isError ? <Trouble error={settings.error} retry={() => void settings.refetch()} /> : null}
      {settings.data && people.length === 0 ? (
        <Empty icon="account-outline" title="Nobody yet">
          Enter the people your net serves: their phone, mail or mesh node. The list stays on this station.
        </Empty>
      ) : null}
      <View role="list" aria-label="People">
        {people.map((person) => (
          <View
            key={person.name}
            role="listitem"
            style={{
              flexDirection: 'row',
              gap: 8,
              alignItems: 'center',
              paddingVertical: 8,
              borderBottomWidth: 1,
              borderBottomColor: look.rule,
            }}
          >
            <View style={{ flex: 1 }}>
              <Body bold>{person.name}</Body>
              <Body soft>
                {[
                  person.phone,
                  person.mail,
                  person.meshNode ? `node ${person.meshNode}` : null,
                  person.licensed ? 'licensed' : 'no licence',
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </Body>
            </View>
            <Button
              title="Remove"
              about={person.name}
              kind="plain"
              busy={save.isPending}
              onPress={() => save.mutate(people.filter((other) => other !== person))}
            />
          </View>
        ))}
      </View>
      <Heading level={2} style={{ marginTop: 20 }}>
        Add somebody
      </Heading>
      <Field
        label="Name"
        value={entry.name}
        onChangeText={(name) => setEntry({ ...entry, name })}
        error={problem('name')}
      />
      <Field
        label="Phone"
        value={entry.phone}
        onChangeText={(phone) => setEntry({ ...entry, phone })}
        error={problem('phone')}
      />
      <Field
        label="Mail"
        value={entry.mail}
        onChangeText={(mail) => setEntry({ ...entry, mail })}
        autoCapitalize="none"
        error={problem('mail')}
      />
      <Field
        label="Mesh node"
        mono
        value={entry.meshNode}
        onChangeText={(meshNode) => setEntry({ ...entry, meshNode })}
        error={problem('meshNode')}
        hint="Its tag, one to six letters or digits"
      />
      <CheckRow
        label="Holds a licence"
        checked={entry.licensed}
        onChange={(licensed) => setEntry({ ...entry, licensed })}
        hint="Items of people without one are third-party traffic on amateur bands."
      />
      {save.isError ? (
        <Notice kind="alarm" title="Not saved">
          {save.error.message}
        </Notice>
      ) : null}
      <View style={{ alignItems: 'flex-start', marginTop: 8 }}>
        <Button
          title="Add to the list"
          disabled={!checked.success || people.some(({ name }) => name === entry.name.trim())}
          busy={save.isPending}
          onPress={() =>
            checked.success && save.mutate([...people, checked.data], { onSuccess: () => setEntry(BLANK) })
          }
        />
      </View>
    </Page>
  );
}

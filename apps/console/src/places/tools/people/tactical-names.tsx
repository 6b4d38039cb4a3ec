import { tacticalChange, type TacticalChange, type TacticalView } from '@tombolo/contract';
import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { useState } from 'react';
import { View } from 'react-native';
import { useChange } from '../../../live/queries';
import { endTacticalName, giveTacticalName, useTacticalNames } from '../../../live/tactical';
import { useTimeWords } from '../../../live/preferences';
import { Button } from '../../../ui/button';
import { useNow } from '../../../ui/clock';
import { toFirstFault } from '../../../ui/faults';
import { FormField } from '../../../ui/form-field';
import { Row, Stack } from '../../../ui/layout';
import { Notice, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading, Mono } from '../../../ui/text';

const MOST_OVER = 8;

/** Stations by their task: who goes by which name now, who did before, and a form to give one. */
export function TacticalNames() {
  const timeWords = useTimeWords();
  const names = useTacticalNames();
  const give = useChange(giveTacticalName, ['tactical names']);
  const end = useChange((one: TacticalView) => endTacticalName(one.id), ['tactical names']);
  const [ended, setEnded] = useState<TacticalView | null>(null);
  const all = names.data ?? [];
  const now = useNow(60_000);
  const over = all.filter(({ until }) => until !== null).slice(0, MOST_OVER);
  return (
    <View>
      <Heading level={2}>Tactical names</Heading>
      <Body soft below={8}>
        A name by the task, such as Shelter 2, stands beside the call wherever that appears. It can go to another
        station; what passed before keeps the name of then. On the air nothing changes: what goes out by packet radio
        carries the call of this station, in the mesh the number of the node. No name stands in for a call where your
        rules ask for identification.
      </Body>
      {names.isPending ? <Waiting what="tactical names" /> : null}
      {names.isError ? <Trouble error={names.error} retry={() => void names.refetch()} /> : null}
      <View role="list" aria-label="Tactical names">
        {all
          .filter(({ until }) => until === null)
          .map((one) => (
            <NameRow
              key={one.id}
              one={one}
              now={now}
              busy={end.isPending}
              end={() => end.mutate(one, { onSuccess: () => setEnded(one) })}
            />
          ))}
      </View>
      {ended ? (
        <Notice title={`${ended.name} is nobody’s name now`}>
          <Button
            title="Give it again"
            about={`${ended.name} to ${ended.call}`}
            kind="plain"
            busy={give.isPending}
            onPress={() => give.mutate({ name: ended.name, call: ended.call }, { onSuccess: () => setEnded(null) })}
          />
        </Notice>
      ) : null}
      {end.isError ? (
        <Notice kind="alarm" title="It still holds">
          {end.error.message}
        </Notice>
      ) : null}
      <NameForm
        busy={give.isPending}
        trouble={give.isError ? give.error.message : null}
        give={(change, done) => give.mutate(change, { onSuccess: done })}
      />
      {over.length > 0 ? (
        <Stack role="list" aria-label="Names of before" above={12}>
          <Body bold>Before</Body>
          {over.map(({ id, name, call, since, until }) => (
            <View role="listitem" key={id}>
              <Body soft>{`${name} was ${call} from ${timeWords(since, now)} until ${timeWords(until!, now)}`}</Body>
            </View>
          ))}
        </Stack>
      ) : null}
    </View>
  );
}

function NameRow({ one, now, busy, end }: { one: TacticalView; now: number; busy: boolean; end: () => void }) {
  const timeWords = useTimeWords();
  return (
    <Row role="listitem" wrap align="center" gap={8} padY={8} ruled>
      <Stack grow={1} basis={200}>
        <Body bold>{one.name}</Body>
        <Row wrap gap={8}>
          <Mono>{one.call}</Mono>
          <Body soft>{`since ${timeWords(one.since, now)}`}</Body>
        </Row>
      </Stack>
      <Button title="End" about={`the name ${one.name}`} kind="plain" busy={busy} onPress={end} />
    </Row>
  );
}

function NameForm({
  busy,
  trouble,
  give,
}: {
  busy: boolean;
  trouble: string | null;
  give: (change: TacticalChange, done: () => void) => void;
}) {
  const { control, handleSubmit, reset } = useForm<TacticalChange>({
    resolver: zodResolver(tacticalChange),
    defaultValues: { name: '', call: '' },
    mode: 'onTouched',
  });
  return (
    <Stack above={12}>
      <FormField control={control} name="name" label="Tactical name" hint="Such as Shelter 2" />
      <FormField
        control={control}
        name="call"
        label="Goes to the station"
        mono
        autoCapitalize="characters"
        hint="Its call with SSID"
      />
      {trouble !== null ? (
        <Notice kind="alarm" title="Not given">
          {trouble}
        </Notice>
      ) : null}
      <Button
        title="Give the name"
        kind="plain"
        busy={busy}
        onPress={() => void handleSubmit((change) => give(change, () => reset()), toFirstFault)()}
      />
    </Stack>
  );
}

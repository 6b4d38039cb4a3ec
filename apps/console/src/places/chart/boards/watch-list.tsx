import type { ReadingsView, Watch } from '@tombolo/contract';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../../../live/api';
import { useDistanceUnit } from '../../../live/preferences';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Row, Stack } from '../../../ui/layout';
import { RemoveButton } from '../../../ui/remove-button';
import { Body, Heading, Mono } from '../../../ui/text';
import { WatchForm } from './watch-form';
import { watchInWords } from './wind';

/** What is watched for. */
export function WatchList({ watches, readings }: { watches: readonly Watch[]; readings: readonly ReadingsView[] }) {
  const unit = useDistanceUnit();
  const [edited, edit] = useState<string | null>(null);
  const turn = useChange(
    ({ id, enabled }: { id: string; enabled: boolean }) => api.changeWatch(id, { enabled }),
    ['watches'],
  );
  const remove = useChange((id: string) => api.removeWatch(id), ['watches']);
  if (watches.length === 0) return null;
  return (
    <Stack above={24}>
      <Heading level={2}>Watched for</Heading>
      <View role="list" aria-label="Watched for">
        {watches.map((watch) => {
          const measured = readings.find(({ call }) => call === watch.call);
          const about = `${watch.call} ${watch.name}`;
          return (
            <Stack role="listitem" key={watch.id} padY={10} ruled gap={6}>
              <Row gap={10} wrap>
                <Mono bold>{watch.call}</Mono>
                <Body fill>{`${watch.name} ${watchInWords(watch, unit)}`}</Body>
                <Body bold={watch.raised} tone={watch.raised ? 'alarm' : 'inkSoft'}>
                  {!watch.enabled ? 'off' : watch.raised ? 'alarm is on' : 'quiet'}
                </Body>
              </Row>
              <Row gap={8}>
                <Button
                  title={watch.enabled ? 'Switch off' : 'Switch on'}
                  about={about}
                  kind="plain"
                  onPress={() => turn.mutate({ id: watch.id, enabled: !watch.enabled })}
                />
                {measured && edited !== watch.id ? (
                  <Button title="Change" about={about} kind="plain" onPress={() => edit(watch.id)} />
                ) : null}
                <RemoveButton about={about} onRemove={() => remove.mutate(watch.id)} />
              </Row>
              {measured && edited === watch.id ? (
                <WatchForm readings={measured} before={watch} done={() => edit(null)} />
              ) : null}
            </Stack>
          );
        })}
      </View>
    </Stack>
  );
}

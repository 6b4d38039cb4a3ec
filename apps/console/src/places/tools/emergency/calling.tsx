import type { EmergencyNow, OwnEmergency } from '@tombolo/contract';
import { View } from 'react-native';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Instant } from '../../../ui/clock';
import { Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body, Heading, Mono } from '../../../ui/text';
import { emergencyAtStation } from './at-station';

/** While it goes out: over which bearers, how often, who has it; and the end. */
export function Calling({ own, now }: { own: OwnEmergency; now: EmergencyNow }) {
  const end = useChange(emergencyAtStation.end, ['emergency', 'settings', 'transmissions']);
  const word = own.drill ? 'drill' : 'call for help';
  return (
    <View>
      <Heading level={2}>{own.drill ? 'The drill goes out' : 'Our call for help goes out'}</Heading>
      <Body>
        {'Since '}
        <Instant iso={own.since} />
        {own.words ? ` · ${own.words}` : ''}
      </Body>
      <Stack role="list" aria-label="Over these bearers" gap={8} around={12}>
        {now.over.map(({ bearerId, name, stopped, times, lastAt, seenBy }) => (
          <View key={bearerId} role="listitem">
            <Body bold>{name}</Body>
            {stopped ? <Body>{`Nothing goes out: ${stopped}`}</Body> : null}
            <Body>
              {times === 0 ? 'Not sent yet' : `Sent ${times === 1 ? 'once' : `${times} times`}, the last at `}
              {lastAt ? <Instant iso={lastAt} /> : null}
            </Body>
            {times > 0 ? (
              <Body>
                {seenBy.length > 0 ? 'Repeated or taken by ' : 'Nobody was heard repeating it yet.'}
                {seenBy.length > 0 ? <Mono>{seenBy.join(', ')}</Mono> : null}
              </Body>
            ) : null}
          </View>
        ))}
      </Stack>
      <Body soft below={12}>
        That a digipeater repeated it proves that it went out, not that somebody read it.
      </Body>
      {end.isError ? (
        <Notice kind="alarm" title="Not ended: it still goes out">
          {end.error.message}
        </Notice>
      ) : null}
      <Button
        title={`End the ${word}, and say so by radio`}
        busy={end.isPending}
        onPress={() => end.mutate(undefined)}
      />
    </View>
  );
}

import { newProbe, type NewProbe } from '@tombolo/contract';
import LinearProgress from '@rneui/themed/dist/LinearProgress';
import { useState } from 'react';
import { View } from 'react-native';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Stack } from '../../../ui/layout';
import { useLook } from '../../../ui/look';
import { Notice } from '../../../ui/page';
import { Body } from '../../../ui/text';
import { probe } from './at-station';

type Talk = NewProbe['talk'];
const TALKS = [
  { id: 'position', title: 'A position receiver', hint: 'Talks every second or two, by itself.' },
  { id: 'modem', title: 'A modem', hint: 'Says something when its radio hears somebody.' },
] as const satisfies readonly { id: Talk; title: string; hint: string }[];

const capital = (words: string): string => words[0]!.toUpperCase() + words.slice(1);

/** Tries the speeds of a device, and says what each looked like. */
export function SpeedFinder({ device }: { device: string }) {
  const look = useLook();
  const [talk, setTalk] = useState<Talk>('position');
  const find = useChange(probe, ['serial ports']);
  const wanted = newProbe.safeParse({ device, talk });
  return (
    <View>
      <Choice<Talk> label="What talks there?" options={TALKS} value={talk} onChange={setTalk} />
      <Stack align="start">
        <Button
          title="Listen at each speed"
          disabled={wanted.success ? false : (wanted.error.issues[0]?.message ?? 'No device')}
          busy={find.isPending}
          onPress={() => find.mutate({ device, talk })}
        />
      </Stack>
      <Stack aria-live="polite" above={8} gap={4}>
        {find.isPending ? (
          <>
            <LinearProgress color={look.tide} />
            <Body soft>Listening, two seconds at each speed; 16 s at most.</Body>
          </>
        ) : null}
        {find.isError ? (
          <Notice kind="alarm" title="It could not be listened to">
            {find.error.message}
          </Notice>
        ) : null}
        {find.isSuccess ? (
          <>
            {find.data.tried.map(({ speedBd, words }) => (
              <Body key={speedBd} soft>
                {capital(words)}
              </Body>
            ))}
            <Body bold>
              {find.data.foundBd === null
                ? 'Nothing made sense at any speed. A modem may have heard nobody; else look at cable and power, and whether transmit and receive line are swapped.'
                : `It talks at ${find.data.foundBd} Bd.`}
            </Body>
          </>
        ) : null}
      </Stack>
    </View>
  );
}

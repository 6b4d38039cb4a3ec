import { locksOf, type BearerKindId, type ItemDetail, type Settings } from '@tombolo/contract';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { useChange } from '../live/queries';
import { Button } from '../ui/button';
import { Notice } from '../ui/page';
import { TransmitQuestions } from './transmit-questions';
import { useDraft } from '../live/draft';

/** Sending a draft once, however often the button is pressed; afterwards the item is shown. */
export function useSending<Input extends { id: string }>(queue: (input: Input) => Promise<ItemDetail>) {
  const [id, setId] = useState(() => crypto.randomUUID());
  const sent = useDraft((draft) => draft.sent);
  const change = useChange(queue, ['items', 'bearers']);
  return {
    busy: change.isPending,
    error: change.error,
    send: (input: Omit<Input, 'id'>, after?: () => void) =>
      change.mutate({ ...input, id } as Input, {
        onSuccess: (item) => {
          sent();
          setId(crypto.randomUUID());
          after?.();
          router.navigate(`/traffic/${item.id}`);
        },
      }),
  };
}

interface SendButtonProps {
  kind: BearerKindId;
  settings: Settings;
  title: string;
  disabled: boolean;
  busy: boolean;
  error: Error | null;
  onPress: () => void;
}

/** The button that says what will happen, the questions that hold it, and what went wrong. */
export function SendButton({ kind, settings, title, disabled, busy, error, onPress }: SendButtonProps) {
  const locked = locksOf(kind, settings).length > 0;
  return (
    <View>
      {locked ? <TransmitQuestions settings={settings} /> : null}
      {error ? (
        <Notice kind="alarm" title="Not queued; what you wrote is kept">
          {error.message}
        </Notice>
      ) : null}
      <Button title={title} icon="send-outline" busy={busy} disabled={disabled || locked} onPress={onPress} />
    </View>
  );
}

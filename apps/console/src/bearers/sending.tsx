import { newItem, TRIED_HERE, type NewItem, type Settings } from '@tombolo/contract';
import { writingRoutes } from '@tombolo/contract/routes/writing';
import { router } from 'expo-router';
import { useEffect, useRef } from 'react';
import { View } from 'react-native';
import { ask, StationProblem } from '../live/ask';
import { useChange } from '../live/queries';
import { Button } from '../ui/button';
import { Notice } from '../ui/page';
import { TransmitQuestions } from './transmit-questions';
import { useDrafts } from '../drafts/drafts';

/** What is written, as the station takes it: whom, what, by which way. How urgent it is stands in the draft. */
export type Written = Pick<NewItem, 'addressee' | 'content' | 'way' | 'answers'>;

/**
 * What does not fit of what is written, by the contract's own schema. `at` is where in it, such as `content.subject`; what is still empty is
 * no fault.
 */
export function faultsOf(written: Written) {
  const checked = newItem.safeParse({ ...written, id: crypto.randomUUID() });
  const issues = checked.error?.issues ?? [];
  return {
    complete: checked.success,
    at: (at: string, value: string): string | undefined =>
      value.trim() === '' ? undefined : issues.find(({ path }) => `${path.join('.')}.`.startsWith(`${at}.`))?.message,
  };
}

/** What makes an item another one. Not the path and how often: reckoned, they may come out otherwise at the next press. */
function whatIsSent({ addressee, content, way: { by, bearerId }, answers }: Written, urgency: unknown[]): string {
  // Files are the draft's, which tells when they change.
  const { attachments: _, ...words } = { attachments: [], ...content };
  return JSON.stringify([addressee, words, by, bearerId, answers, ...urgency]);
}

/**
 * Sending what is written once, however often the button is pressed; afterwards the item is shown. Its number belongs to what was written
 * and is kept with the draft: once that is changed, even to another addressee, it is another item.
 */
export function useSending() {
  const change = useChange((body: NewItem) => ask(writingRoutes.queueItem, { body }), ['items', 'bearers']);
  return {
    busy: change.isPending,
    error: change.error,
    send: (written: Written) => {
      const { open, drafts, tried } = useDrafts.getState();
      const pressed = drafts[open]!;
      const { precedence } = pressed;
      const withinMin = (TRIED_HERE.has(written.way.by) && pressed.withinMin) || null;
      const what = whatIsSent(written, [precedence, withinMin]);
      // The time that it has runs from the first press, however often the button is pressed.
      const now =
        pressed.tried?.what === what
          ? pressed.tried
          : {
              id: crypto.randomUUID(),
              what,
              deadline: withinMin === null ? null : new Date(Date.now() + withinMin * 60_000).toISOString(),
            };
      tried(open, now);
      change.mutate(
        { ...written, id: now.id, deadline: now.deadline, precedence },
        {
          onError: (error) => {
            // Nothing was queued, and the time that it had is over: the next press gives it as much again.
            if (error instanceof StationProblem && error.code === 'deadline-passed') tried(open, null);
          },
          onSuccess: (item) => {
            // What was written on while it was on its way stays a draft.
            const { drafts: left, sent } = useDrafts.getState();
            if (left[open]?.changedAtMs === pressed.changedAtMs) sent(open);
            router.navigate(`/traffic/${item.id}`);
          },
        },
      );
    },
  };
}

interface SendButtonProps {
  /** What holds the transmitter of the way that it goes. */
  locks: readonly string[];
  /** Whether that way needs a licence. */
  licence?: boolean;
  settings: Settings;
  title: string;
  /** Why it cannot go yet. */
  disabled: false | string;
  busy: boolean;
  error: Error | null;
  onPress: () => void;
}

/** The button that says what will happen, the questions that hold it, and what went wrong. */
export function SendButton({ locks, licence, settings, title, disabled, busy, error, onPress }: SendButtonProps) {
  const locked = locks.length > 0;
  const off = locked ? 'The questions above hold the transmitter.' : disabled;
  const press = useRef(onPress);
  useEffect(() => {
    press.current = onPress;
  });
  const ready = off === false && !busy;
  useEffect(() => {
    if (!ready) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey) || event.repeat) return;
      // Only from within what is written: on a link the same keys open a tab, and must not transmit.
      const within = event.target instanceof HTMLElement && event.target.matches('input, textarea');
      if (!within || event.target.closest('[role="dialog"]')) return;
      event.preventDefault();
      press.current();
    };
    // On the way down: a text field keeps its keys to itself on the way up.
    addEventListener('keydown', onKey, true);
    return () => removeEventListener('keydown', onKey, true);
  }, [ready]);
  return (
    <View>
      {locked ? <TransmitQuestions settings={settings} licence={licence} /> : null}
      {error ? (
        <Notice kind="alarm" title="Not queued; what you wrote is kept">
          {error.message}
        </Notice>
      ) : null}
      <Button title={title} icon="send-outline" busy={busy} disabled={off} onPress={onPress} />
    </View>
  );
}

import { useEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import { Button } from '../../../ui/button';
import { Body, Heading } from '../../../ui/text';
import { Stack } from '../../../ui/layout';

/** Time to think again, s. */
const COUNTS_S = 10;

/** Counts down and sends; one press takes it back, another does not wait. Whoever leaves the page takes it back too. */
export function Countdown({
  what,
  over,
  send,
  cancel,
}: {
  what: string;
  over: string;
  send: () => void;
  cancel: () => void;
}) {
  const [left, setLeft] = useState(COUNTS_S);
  const back = useRef<View>(null);
  // The key that began it takes it back.
  useEffect(() => {
    (back.current as unknown as HTMLElement).querySelector<HTMLElement>('[role="button"], button')?.focus();
  }, []);
  const done = useRef(send);
  useEffect(() => {
    done.current = send;
  });
  useEffect(() => {
    const endMs = Date.now() + COUNTS_S * 1000;
    const timer = setInterval(() => {
      const leftS = Math.ceil((endMs - Date.now()) / 1000);
      setLeft(Math.max(0, leftS));
      if (leftS > 0) return;
      clearInterval(timer);
      done.current();
    }, 200);
    return () => clearInterval(timer);
  }, []);
  return (
    <Stack pad={12} gap={12} framed="alarm" frameWidth={2}>
      <Heading level={2}>{`${what} goes out in ${left} s`}</Heading>
      <Body role="alert">{`${what} goes out in ${COUNTS_S} seconds by ${over}, unless you take it back.`}</Body>
      <View ref={back}>
        <Button title="Take it back" icon="undo" onPress={cancel} />
      </View>
      <Button title="Send it now" kind="plain" onPress={send} />
    </Stack>
  );
}

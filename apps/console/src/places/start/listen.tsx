import type { BearerView, Settings } from '@tombolo/contract';
import { transmitLocks } from '@tombolo/contract';
import { useStations } from '../../live/queries';
import { useTimeWords } from '../../live/preferences';
import { Button } from '../../ui/button';
import { useTimed } from '../../ui/clock';
import { Stack } from '../../ui/layout';
import { Notice } from '../../ui/page';
import { Body, Heading, Mono } from '../../ui/text';
import { age } from '../../ui/time';

/** Until the first station is heard, and the one next step then. */
export function Listen({ settings, bearers }: { settings: Settings; bearers: readonly BearerView[] }) {
  const timeWords = useTimeWords();
  const stations = useStations();
  const up = bearers.filter(({ enabled, state }) => enabled && state.link === 'up');
  const since = up.map(({ state }) => state.since).sort()[0] ?? null;
  const heard = [...(stations.data ?? [])].sort((a, b) => a.firstAt.localeCompare(b.firstAt))[0];
  const waited = useTimed((now) => (since ? age(since, now) : ''));
  if (bearers.length === 0)
    return (
      <Stack gap={8}>
        <Heading level={2}>Listen</Heading>
        <Body>Nothing is connected yet. Until it is, you can look around, enter people and read the log.</Body>
        <Button title="Add a modem" href="/start?step=have" />
      </Stack>
    );
  return (
    <Stack gap={8} aria-live="polite">
      <Heading level={2}>Listen</Heading>
      {bearers
        .filter(({ enabled, state }) => enabled && state.link !== 'up')
        .map(({ id, name, state }) => (
          <Notice key={id} kind="alarm" title={`${name} is not connected`}>
            <Body>{state.reason ?? 'It is tried.'}</Body>
            <Button title="Find out why" kind="plain" href="/tools/ready?symptom=nothing-decodes" />
          </Notice>
        ))}
      {heard ? (
        <>
          <Body bold>
            {'Heard your first station, '}
            <Mono bold>{heard.call}</Mono>
            {since && heard.firstAt >= since
              ? `, after ${age(since, Date.parse(heard.firstAt))}`
              : `, at ${timeWords(heard.firstAt)}`}
            {'.'}
          </Body>
          <Body>
            {transmitLocks(settings).length === 0
              ? 'Next: write a text to somebody, and see what becomes of it.'
              : 'Next: see on the chart who is there. Sending is opened where you first want to send.'}
          </Body>
          <Button
            title={transmitLocks(settings).length === 0 ? 'Write a text' : 'Show the chart'}
            href={transmitLocks(settings).length === 0 ? '/write' : '/chart'}
          />
        </>
      ) : since ? (
        <>
          <Body>{`Listening since ${timeWords(since)}, for ${waited}. Nobody heard yet.`}</Body>
          <Body soft>
            Stations tell of themselves every 10 to 30 min, moving ones every few minutes. If nobody comes within the
            hour, the ready check finds out why.
          </Body>
          <Button title="Ready check" kind="plain" href="/tools/ready?symptom=nothing-decodes" />
        </>
      ) : null}
    </Stack>
  );
}

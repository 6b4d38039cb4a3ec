import { api } from '../live/api';
import { useChange, useHold, useSettings } from '../live/queries';
import { useTimeWords } from '../live/preferences';
import { Banner } from '../ui/banner';
import { Button } from '../ui/button';
import { useNow } from '../ui/clock';
import { Icon } from '../ui/icon';
import { useLook, useWide } from '../ui/look';
import { Notice } from '../ui/page';
import { Body, Mono } from '../ui/text';
import { Press } from '../ui/press';
import { inBar } from '../ui/repeated';

const useHoldChange = () => useChange((held: boolean) => api.holdEverything(held), ['settings', 'hold', 'bearers']);

/** One press on every place: nothing more goes out. */
export function HoldButton() {
  const look = useLook();
  const wide = useWide();
  const settings = useSettings();
  const change = useHoldChange();
  const held = settings.data?.heldSince != null;
  if (held) return null;
  return (
    <Press
      role="button"
      aria-label={change.isError ? 'Not held: try again' : 'Hold all that would go out'}
      aria-busy={change.isPending}
      onPress={() => change.mutate(true)}
      {...inBar(wide)}
    >
      <Icon name="hand-back-left-outline" color={change.isError ? look.alarm : look.inkSoft} />
      {wide ? <Body soft>{change.isError ? 'Not held: try again' : 'Hold all'}</Body> : null}
    </Press>
  );
}

/** While everything is held: since when, what waits, and what the equipment has that nobody here can stop. */
export function HeldBanner() {
  const timeWords = useTimeWords();
  const now = useNow(1000);
  const settings = useSettings();
  const since = settings.data?.heldSince ?? null;
  const hold = useHold(since !== null);
  const change = useHoldChange();
  if (since === null) return null;
  const there = (hold.data?.atEquipment ?? []).filter(({ untilAt }) => Date.parse(untilAt) > now);
  return (
    <Banner
      icon="hand-back-left-outline"
      actions={
        <>
          {change.isError ? (
            <Notice kind="alarm" title="That did not work">
              {change.error.message}
            </Notice>
          ) : null}
          <Button title="Let it go on" busy={change.isPending} onPress={() => change.mutate(false)} />
        </>
      }
    >
      <Body bold tone="alarm">{`Everything is held since ${timeWords(since, now)}`}</Body>
      <Body>{hold.data ? `${hold.data.waiting} waiting here.` : 'Nothing more is handed to the equipment.'}</Body>
      {there.map(({ line, untilAt, bearer }) => (
        <Body key={`${bearer}/${untilAt}`}>
          {`${bearer} has, and may still send until ${timeWords(untilAt, now)}: `}
          <Mono>{line}</Mono>
        </Body>
      ))}
    </Banner>
  );
}

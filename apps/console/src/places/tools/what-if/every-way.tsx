import { offOf } from '@tombolo/contract';
import { useState } from 'react';
import { View } from 'react-native';
import { Button } from '../../../ui/button';
import { Stack } from '../../../ui/layout';
import { Empty, Trouble, Waiting } from '../../../ui/page';
import { Body } from '../../../ui/text';
import { besideOf, besideText, EVERYBODY } from './kept-plans';
import { offInWords } from './off-in-words';
import { PlanShelf } from './plan-shelf';
import { UndoLast } from './undo-last';
import { useEverybody } from './use-everybody';
import { WaysBeside } from './ways-beside';
import { WhatMayFail } from './what-may-fail';
import { WhoIsLeft } from './who-is-left';

interface EveryWayProps {
  /** What is thought off, and which plans stand beside each other, as they stand in the address. */
  off: string;
  beside: string;
  change: (said: { readonly off?: string; readonly beside?: string }) => void;
}

/** All ways to everybody on the list of people at once, and who is left without any when something fails. */
export function EveryWay({ off: text, beside, change }: EveryWayProps) {
  const [undone, setUndone] = useState<string | null>(null);
  const off = offOf(text);
  // In whatever order it was thought, it is the same plan.
  const plan = [...off].sort().join();
  const asItIs = useEverybody([]);
  const thought = useEverybody(off);
  const { view: before, error } = asItIs;
  if (error) return <Trouble error={error} retry={asItIs.again} />;
  if (!before || !asItIs.isWhole) return <Waiting what={reckonedOf('the ways to everybody', before)} />;
  if (before.of === 0)
    return (
      <Empty
        icon="account-group-outline"
        title="Nobody is on your list"
        action={{ title: 'Open the list of people', href: '/tools/people' }}
      >
        Here it is told whom you would lose. Note first whom you write to, with all their addresses.
      </Empty>
    );
  const { view: after, isWhole } = thought;
  const to = (wanted: string) => {
    setUndone(text);
    change({ off: wanted });
  };
  const again = () => {
    asItIs.again();
    if (off.length > 0) thought.again();
  };
  return (
    <View>
      <Body soft below={12}>
        By everything that you have, to everybody on your list: as Write would reckon a text of 40 characters that is
        sent now and has a day. Less than 5 of 100 counts as no way. What is behind a gateway or a board nobody sees
        from here: it is a guess.
      </Body>
      <WhatMayFail
        asItIs={before.relies}
        now={isWhole && after ? after.relies : null}
        off={off}
        setOff={(wanted) => to(wanted.join())}
      />
      <UndoLast
        undone={undone}
        now={text}
        back={(last) => {
          change({ off: last });
          setUndone(null);
        }}
      />
      <Stack above={24} aria-live="polite">
        {thought.error ? (
          <Trouble error={thought.error} retry={thought.again} />
        ) : isWhole && after ? (
          <WhoIsLeft before={before.people} after={after.people} changed={off.length > 0} />
        ) : (
          <Waiting what={reckonedOf('who is left', after)} />
        )}
      </Stack>
      <PlanShelf
        mesh={EVERYBODY}
        inWords={(kept) => offInWords(kept, [...before.relies, ...(after?.relies ?? [])])}
        plan={plan}
        beside={besideOf(beside)}
        setBeside={(names) => change({ beside: besideText(names) })}
        open={to}
      />
      <WaysBeside off={plan} names={beside} />
      <Stack above={24} align="start">
        <Button title="Look at the ways anew" kind="plain" onPress={again} />
      </Stack>
    </View>
  );
}

const reckonedOf = (what: string, view: { readonly people: readonly unknown[]; readonly of: number } | null): string =>
  view ? `${what}, ${view.people.length} of ${view.of} reckoned` : what;

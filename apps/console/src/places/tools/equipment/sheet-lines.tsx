import { tickHolds, ticksOf, type Tick } from '@tombolo/contract';
import { SHEET_SUBJECTS, type SheetLine } from '@tombolo/core';
import { View } from 'react-native';
import { usePreferences } from '../../../live/preferences';
import { useChange } from '../../../live/queries';
import { CheckRow } from '../../../ui/choice';
import { Instant } from '../../../ui/clock';
import { Stack } from '../../../ui/layout';
import { Notice, Trouble } from '../../../ui/page';
import { Body, Heading, Mono } from '../../../ui/text';
import { equipmentAtStation, useTicks } from './at-station';

interface SheetLinesProps {
  pieceId: string;
  lines: readonly SheetLine[];
  /** Whose sheet it is: each has ticks of its own. */
  whose: string;
}

const capital = (words: string): string => words[0]!.toUpperCase() + words.slice(1);

/** The lines of a sheet by subject, each with a box; who ticked what, and when, is kept. */
export function SheetLines({ pieceId, lines, whose }: SheetLinesProps) {
  const initials = usePreferences((preferences) => preferences.initials.trim());
  const ticks = useTicks(pieceId);
  const tick = useChange(equipmentAtStation.tick, ['ticks']);
  const last = ticksOf(ticks.data ?? [], whose);
  const done = lines.filter((line) => tickHolds(last.get(line.id), line)).length;
  return (
    <View>
      <View aria-live="polite">
        <Body bold>{`${done} of ${lines.length} done for ${whose}`}</Body>
      </View>
      {ticks.isError ? <Trouble error={ticks.error} retry={() => void ticks.refetch()} /> : null}
      {tick.isError ? (
        <Notice kind="alarm" title="Not kept">
          {tick.error.message}
        </Notice>
      ) : null}
      {SHEET_SUBJECTS.map((subject) => {
        const those = lines.filter((line) => line.subject === subject);
        if (those.length === 0) return null;
        return (
          <Stack key={subject} above={16}>
            <Heading level={3}>{capital(subject)}</Heading>
            {those.map((line) => (
              <Line
                key={line.id}
                line={line}
                tick={last.get(line.id)}
                toggle={
                  initials === ''
                    ? null
                    : () =>
                        tick.mutate({
                          id: crypto.randomUUID(),
                          pieceId,
                          holder: whose,
                          line: line.id,
                          value: line.value,
                          done: !tickHolds(last.get(line.id), line),
                          by: initials,
                        })
                }
              />
            ))}
          </Stack>
        );
      })}
    </View>
  );
}

function Line({ line, tick, toggle }: { line: SheetLine; tick: Tick | undefined; toggle: (() => void) | null }) {
  const done = tickHolds(tick, line);
  return (
    <Stack padY={8} ruledAbove>
      <CheckRow
        label={line.what}
        checked={done}
        onChange={() => toggle?.()}
        disabled={toggle === null && 'Enter your initials above: each tick says who looked.'}
      />
      <Stack inset={36} gap={4}>
        <Mono selectable>{line.value}</Mono>
        <Body soft>{line.why}</Body>
        <Body>{`Right when: ${line.right}`}</Body>
        {tick ? <TickWords tick={tick} done={done} /> : null}
      </Stack>
    </Stack>
  );
}

function TickWords({ tick, done }: { tick: Tick; done: boolean }) {
  const words = done
    ? `Ticked by ${tick.by}`
    : tick.done
      ? `${tick.by} ticked it for another value: ${tick.value}`
      : `Tick taken back by ${tick.by}`;
  return (
    <Body soft>
      {words}, <Instant iso={tick.at} />
    </Body>
  );
}

import type { KeptView } from '@tombolo/contract';
import { counted } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../../live/api';
import { useChange, useKept } from '../../live/queries';
import { useBackupPlan } from '../../live/backups';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';
import { Instant } from '../../ui/clock';
import { Row, Stack } from '../../ui/layout';
import { Notice, Rule, Trouble, Waiting } from '../../ui/page';
import { octetsInWords } from '../../ui/quantity';
import { Body, Heading } from '../../ui/text';
import { LastGood } from '../tools/backup-plan';

const ALL = 'all';
const USUAL_MONTHS = [24, 12, 6, 3, 1];

const monthsOf = (choice: string): number | null => (choice === ALL ? null : Number(choice));
const choiceOf = (months: number | null): string => (months === null ? ALL : String(months));
const titleOf = (months: number | null): string =>
  months === null
    ? 'Everything'
    : months === 1
      ? 'This month and the one before'
      : `This month and ${months} before it`;

/** The usual ones, and what is set now if it is none of these. */
const choices = (present: number | null): (number | null)[] => [
  null,
  ...[...new Set([...USUAL_MONTHS, ...(present === null ? [] : [present])])].sort((a, b) => b - a),
];

/** `November 2026`. */
export const monthInWords = (month: string): string =>
  new Intl.DateTimeFormat('en-GB', { month: 'long', year: 'numeric', timeZone: 'UTC' }).format(
    new Date(`${month}-01T00:00:00Z`),
  );

/** Months that would go if so many were kept besides the present one. */
export function goingMonths(months: KeptView['months'], keep: number | null, now: Date): KeptView['months'] {
  if (keep === null) return [];
  const first = new Date(Date.UTC(now.getUTCFullYear(), now.getUTCMonth() - keep, 1)).toISOString().slice(0, 7);
  return months.filter(({ month }) => month < first);
}

/** How long what was heard is kept, what that takes of the disk, and what would go. */
export function KeptPanel() {
  const kept = useKept();
  if (kept.isPending) return <Waiting what="months" />;
  if (kept.isLoadingError) return <Trouble error={kept.error} retry={() => void kept.refetch()} />;
  return <Kept kept={kept.data} />;
}

function Kept({ kept }: { kept: KeptView }) {
  const plan = useBackupPlan();
  const [choice, setChoice] = useState<string | null>(null);
  const save = useChange(
    (keepHeardMonths: number | null) => api.changeSettings({ keepHeardMonths }),
    ['kept', 'settings'],
  );
  const chosen = choice ?? choiceOf(kept.keepHeardMonths);
  const going = goingMonths(kept.months, monthsOf(chosen), new Date());
  const changed = monthsOf(chosen) !== kept.keepHeardMonths;
  return (
    <View>
      <Heading level={2}>How long what was heard is kept</Heading>
      <Body soft below={12}>
        What proves something about an item stays for ever, with every hearing of it; so do items, and what you sent.
        The rest goes by whole months, counted in UTC.
      </Body>
      {kept.remaking ? (
        <Notice title="Stations, trails and links are being rebuilt">
          {`From ${kept.remaking.done} receptions so far. The station listens meanwhile, and shows what it knew before until it is done.`}
        </Notice>
      ) : null}
      <Choice
        label="Keep"
        value={chosen}
        onChange={setChoice}
        options={choices(kept.keepHeardMonths).map((months) => ({ id: choiceOf(months), title: titleOf(months) }))}
      />
      {going.length > 0 ? (
        <Notice
          kind={kept.archive === null ? 'alarm' : 'note'}
          title={
            kept.archive === null
              ? 'Nothing goes: there is no folder for the archive'
              : `${changed ? 'Would go' : 'Goes'} within the hour`
          }
        >
          {`${going.map(({ month }) => monthInWords(month)).join(', ')}: about ${octetsInWords(going.reduce((sum, { octets }) => sum + octets, 0))} of the disk. Each is written to the archive first, every octet of it; what cannot be written stays.`}
        </Notice>
      ) : changed ? (
        <Body below={12}>No month is old enough to go now.</Body>
      ) : null}
      {changed ? (
        <Row wrap gap={8}>
          <Button
            title={chosen === ALL ? 'Keep everything' : 'Keep so much'}
            busy={save.isPending}
            onPress={() => save.mutate(monthsOf(chosen), { onSuccess: () => setChoice(null) })}
          />
          <Button title="Cancel" kind="plain" onPress={() => setChoice(null)} />
        </Row>
      ) : null}
      {save.isError ? (
        <Notice kind="alarm" title="That did not work">
          {save.error.message}
        </Notice>
      ) : null}

      <Rule />
      <Heading level={2}>Backup</Heading>
      {plan.data ? <LastGood plan={plan.data} /> : null}
      <Button title="To the backups" kind="plain" href="/tools/backup" />

      <Rule />
      <Heading level={2}>On the disk</Heading>
      <View role="list" aria-label="Months">
        {kept.months.map(({ month, octets, packets, goes }) => (
          <Row key={month} role="listitem" wrap justify="between" columnGap={12} padY={10} ruled>
            <Body bold>{monthInWords(month)}</Body>
            <Body soft>
              {[packets > 0 ? `about ${counted(packets, 'packet')}` : '', octetsInWords(octets), goes ? 'goes' : '']
                .filter((part) => part !== '')
                .join(', ')}
            </Body>
          </Row>
        ))}
        <Row role="listitem" wrap justify="between" columnGap={12} padY={10}>
          <Body bold>Other times</Body>
          <Body soft>{`recordings of other years, and what is kept as proof: ${octetsInWords(kept.restOctets)}`}</Body>
        </Row>
      </View>
      {kept.archive && kept.archive.length > 0 ? (
        <Stack above={16}>
          <Heading level={2}>In the archive</Heading>
          <View role="list" aria-label="Archive">
            {kept.archive.map(({ name, octets }) => (
              <Stack key={name} role="listitem" padY={6}>
                <Body>{`${name}, ${octetsInWords(octets)}`}</Body>
              </Stack>
            ))}
          </View>
          <Body soft>They lie in the folder of the station’s data.</Body>
        </Stack>
      ) : null}
      {kept.lastTurn ? (
        <Stack above={16}>
          <Body soft>{`Last: ${kept.lastTurn.words}`}</Body>
          <Instant iso={kept.lastTurn.at} />
        </Stack>
      ) : null}
    </View>
  );
}

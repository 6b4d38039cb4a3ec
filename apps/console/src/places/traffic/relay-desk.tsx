import type { ItemDetail, RelayProposal } from '@tombolo/contract';
import { ofHundred } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { KnownOf } from '../../live/known-of';
import { useChange } from '../../live/queries';
import { relayApi, useRelays } from '../../live/relays';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Row, Stack } from '../../ui/layout';
import { Notice, Trouble, Waiting } from '../../ui/page';
import { Body, Heading } from '../../ui/text';

const FIRST_WAYS = 3;

/** Ways on for an arrived item: one tap chooses, one releases. What a rule forbids says which. */
export function RelayDesk({ item }: { item: ItemDetail }) {
  const [open, setOpen] = useState(false);
  const [all, setAll] = useState(false);
  const ways = useRelays(item.id, open);
  const [chosen, setChosen] = useState<RelayProposal | null>(null);
  const [text, setText] = useState('');
  const [id] = useState(() => crypto.randomUUID());
  const relay = useChange(
    (way: RelayProposal) =>
      relayApi.relay(item.id, {
        id,
        bearerId: way.bearerId,
        to: way.to,
        person: way.person,
        text,
        released: way.needsRelease,
        ...(way.planned?.path && { path: way.planned.path }),
      }),
    ['items', 'item', 'relays', 'bearers'],
  );
  if (!open)
    return (
      <Stack align="start" below={16}>
        <Button title="Hand it on …" icon="transfer-right" kind="plain" onPress={() => setOpen(true)} />
      </Stack>
    );
  const shown = all ? ways.data : ways.data?.slice(0, FIRST_WAYS);
  return (
    <Stack below={16}>
      <Heading level={2}>Hand it on</Heading>
      {ways.isPending ? <Waiting what="ways on" /> : null}
      {ways.isError ? <Trouble error={ways.error} retry={() => void ways.refetch()} /> : null}
      {ways.data?.length === 0 ? (
        <Body soft>
          No way on is known. People, with their phone, mail or node, are entered under Tools; bearers under Bearers.
        </Body>
      ) : null}
      {shown?.map((way) => (
        <WayOn
          key={`${way.bearerId}/${way.to}/${way.person}`}
          way={way}
          chosen={chosen?.words === way.words}
          choose={() => {
            setChosen(way);
            setText(way.text);
          }}
          text={text}
          setText={setText}
          busy={relay.isPending}
          relay={() => relay.mutate(way, { onSuccess: () => setOpen(false) })}
        />
      ))}
      {relay.isError ? (
        <Notice kind="alarm" title="Not handed on; the item is kept">
          {relay.error.message}
        </Notice>
      ) : null}
      <Row wrap gap={8} above={8}>
        {ways.data && ways.data.length > FIRST_WAYS && !all ? (
          <Button title={`${ways.data.length - FIRST_WAYS} other ways`} kind="plain" onPress={() => setAll(true)} />
        ) : null}
        <Button title="Keep it here" kind="plain" onPress={() => setOpen(false)} />
      </Row>
    </Stack>
  );
}

interface WayOnProps {
  way: RelayProposal;
  chosen: boolean;
  choose: () => void;
  text: string;
  setText: (text: string) => void;
  busy: boolean;
  relay: () => void;
}

function WayOn({ way, chosen, choose, text, setText, busy, relay }: WayOnProps) {
  const octets = new TextEncoder().encode(text).length;
  const tooLong = octets > way.most;
  return (
    <Stack ruledAbove padY={10} gap={6}>
      {chosen && !way.refused ? (
        <View>
          <Body bold>{way.words}</Body>
          <Body soft>{plannedWords(way)}</Body>
          {way.person === null ? null : <KnownOf who={way.person} />}
          <Field
            label="What is sent"
            value={text}
            onChangeText={setText}
            multiline
            error={tooLong ? `${octets} of ${way.most} octets: shorten it` : undefined}
            hint={`${octets} of ${way.most} octets`}
          />
          {way.needsRelease ? (
            <Notice title="Third-party traffic">
              The sender holds no licence. With the release you answer for it as control operator; your licence and your
              local rules come first, and abroad it may need an agreement.
            </Notice>
          ) : null}
          <Button
            title={way.needsRelease ? `Release it and ${lower(way.words)}` : way.words}
            icon="transfer-right"
            busy={busy}
            disabled={tooLong ? 'It is too long for this way.' : text.trim() === '' ? 'There is no text.' : false}
            onPress={relay}
          />
        </View>
      ) : (
        <Stack gap={4} align="start">
          <Button
            title={way.words}
            kind="plain"
            disabled={way.refused === null ? false : `Not this way: ${way.refused}`}
            onPress={choose}
          />
          <Body soft>{way.refused ? `Not this way: ${way.refused}` : `${way.reason} ${plannedWords(way)}`.trim()}</Body>
        </Stack>
      )}
    </Stack>
  );
}

/** How surely it gets to whoever takes it from us, and over which path it is sent. */
function plannedWords({ planned }: RelayProposal): string {
  if (planned === null) return '';
  const { path, takenBy, arrives, proven } = planned;
  const over = path === null ? '' : path.length > 0 ? `Over ${path.join(', ')}: ` : 'Without a digipeater: ';
  const proof = proven === null ? ', and nothing would prove it' : `, ${ofHundred(proven)} that it is proved`;
  return `${over}${ofHundred(arrives)} of 100 that ${takenBy} gets it${proof}.`;
}

const lower = (words: string): string => words.charAt(0).toLowerCase() + words.slice(1);

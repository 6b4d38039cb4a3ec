import type { ItemAction, ItemDetail } from '@tombolo/contract';
import { router } from 'expo-router';
import { useState } from 'react';
import { View, type LayoutChangeEvent } from 'react-native';
import { api } from '../../live/api';
import { useBearers, useChange, useItem } from '../../live/queries';
import { Button } from '../../ui/button';
import { Causeway } from '../../ui/causeway';
import { Instant, useNow } from '../../ui/clock';
import { Notice, Page, Trouble, Waiting } from '../../ui/page';
import { TermHelp } from '../../ui/terms';
import { Body, Heading, Mono } from '../../ui/text';
import { utcTime } from '../../ui/time';
import { useDraft } from '../write/draft';
import { EvidenceList } from './evidence-list';

/** What can be done with an item now. */
export function actionsFor(item: ItemDetail): ItemAction[] {
  const waiting = item.legs.some((leg) => leg.role === 'convey' && leg.nextAt !== null);
  const actions: ItemAction[] = [];
  if (item.direction === 'out' && waiting) actions.push('cancel');
  const arrived = item.status.rung === 'delivered' || item.status.rung === 'answered';
  if (item.direction === 'out' && !waiting && !arrived) actions.push('retry');
  actions.push(item.filedAt === null ? 'file' : 'unfile');
  return actions;
}

const ACTION_WORDS: Record<ItemAction, string> = {
  retry: 'Try again',
  cancel: 'Stop trying',
  file: 'File it',
  unfile: 'Take back from filed',
};

const CAUSEWAY_MEANING =
  'Dotted: planned. Thin line: sent. Half filled: heard repeated. Filled: accepted. Rim: acknowledged from beyond; a broken rim is inferred. Gap: given up.';

/** One item: its road, what the evidence says, what would prove more, and every record. */
export function ItemPanel({ id, openPacket }: { id: string; openPacket: (id: string) => void }) {
  const item = useItem(id);
  const bearers = useBearers();
  const now = useNow(1000);
  const [width, setWidth] = useState(0);
  const act = useChange((action: ItemAction) => api.act(id, action), ['items', 'item']);
  const writeTo = useDraft((draft) => draft.answer);
  if (item.isPending)
    return (
      <Page title="Item">
        <Waiting what="the item" />
      </Page>
    );
  if (item.isError)
    return (
      <Page title="Item">
        <Trouble error={item.error} retry={() => void item.refetch()} />
      </Page>
    );
  const { data } = item;
  const { status } = data;
  const arrived = data.direction === 'in';
  const nextTry = data.legs.find((leg) => leg.role === 'convey' && leg.nextAt !== null);
  return (
    <Page title={arrived ? `From ${data.sender}` : `To ${data.addressee}`}>
      <View style={{ flexDirection: 'row', gap: 12, flexWrap: 'wrap', marginBottom: 8 }}>
        <Instant iso={data.createdAt} />
        <Body soft>{data.kind === 'bulletin' ? 'bulletin' : data.precedence}</Body>
        {data.number ? <Mono soft aria-label={`number ${data.number}`}>{`no. ${data.number}`}</Mono> : null}
      </View>
      <Body style={{ fontSize: 20, lineHeight: 28, marginBottom: 16 }} selectable>
        {data.body}
      </Body>

      <View
        onLayout={(event: LayoutChangeEvent) => setWidth(event.nativeEvent.layout.width)}
        style={{ marginBottom: 8 }}
      >
        {data.causeway && width > 0 ? <Causeway road={data.causeway} width={Math.min(width, 620)} large /> : null}
      </View>
      <View aria-live="polite" style={{ marginBottom: 16, gap: 4 }}>
        <Heading level={2}>{status.words}</Heading>
        {status.wouldProve ? (
          <Body soft>
            {`More would be proven by ${status.wouldProve}`}
            {status.waitUntil
              ? Date.parse(status.waitUntil) > now
                ? `; worth waiting for until ${utcTime(status.waitUntil, now)}.`
                : '; nothing came in the time it usually takes.'
              : '.'}
          </Body>
        ) : null}
        {nextTry?.nextAt && nextTry.triesMade > 0 ? (
          <Body
            soft
          >{`Try ${nextTry.triesMade} of ${nextTry.tries}; the next one at ${utcTime(nextTry.nextAt, now)} unless an acknowledgement comes.`}</Body>
        ) : null}
      </View>

      {act.isError ? (
        <Notice kind="alarm" title="That did not work">
          {act.error.message}
        </Notice>
      ) : null}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8, marginBottom: 16 }}>
        {arrived && data.kind === 'text' && status.rung !== 'answered' ? (
          <Button
            title={`Answer ${data.sender}`}
            icon="reply-outline"
            onPress={() => {
              writeTo(data.sender, data.id);
              router.navigate('/write');
            }}
          />
        ) : null}
        {actionsFor(data).map((action) => (
          <Button
            key={action}
            title={ACTION_WORDS[action]}
            kind={action === 'retry' ? 'main' : 'plain'}
            busy={act.isPending && act.variables === action}
            onPress={() => act.mutate(action)}
          />
        ))}
      </View>

      <Heading level={2}>What proves it</Heading>
      <EvidenceList evidence={data.evidence} arrived={arrived} bearers={bearers.data ?? []} openPacket={openPacket} />
      <View style={{ marginTop: 12 }}>
        <TermHelp term="evidence" />
        <TermHelp term="acknowledgement" />
        <Body soft>{CAUSEWAY_MEANING}</Body>
      </View>
    </Page>
  );
}

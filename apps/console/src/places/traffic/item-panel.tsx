import type { BearerView, ItemAction, ItemDetail, SentCommand } from '@tombolo/contract';
import { router } from 'expo-router';
import { useEffect, useState } from 'react';
import type { LayoutChangeEvent } from 'react-native';
import { api } from '../../live/api';
import { KnownOf } from '../../live/known-of';
import { useBearers, useChange, useItem, useSettings } from '../../live/queries';
import { readWith, useReadMarks } from '../../live/read-marks';
import { Button } from '../../ui/button';
import { Causeway } from '../../ui/causeway';
import { Instant } from '../../ui/clock';
import { Row, Stack } from '../../ui/layout';
import { Notice, Page, Trouble, Waiting } from '../../ui/page';
import { octetsInWords } from '../../ui/quantity';
import { TakeAlong } from '../../ui/take-along';
import { TermHelp } from '../../ui/terms';
import { Body, Heading, Mono } from '../../ui/text';
import { consoleKind } from '../../bearers/registry';
import { OtherWay } from '../../ways/other-way';
import { useDrafts } from '../../drafts/drafts';
import { saveFile } from '../log/save';
import { Brought } from './brought';
import { CustodyList } from './custody-list';
import { Predicted } from './predicted';
import { EvidenceList } from './evidence-list';
import { itemAsText } from './item-as-text';
import { ItemState } from './item-state';
import { CommandAgain, Question } from './question';
import { Parts } from './parts';
import { QuickAnswers } from './quick-answers';
import { RelayDesk } from './relay-desk';

/** What can be done with an item now. */
export function actionsFor(item: ItemDetail): ItemAction[] {
  const waiting = item.legs.some((leg) => leg.role === 'convey' && leg.nextAt !== null);
  // An arrived item that was handed on is tried, stopped and tried again like one of ours.
  const ours = item.direction === 'out' || item.custody.some(({ what }) => what === 'passed');
  const actions: ItemAction[] = [];
  if (ours && waiting && item.legs.some((leg) => leg.held !== null)) actions.push('release');
  if (ours && waiting) actions.push('cancel');
  const arrived = item.status.rung === 'delivered' || item.status.rung === 'answered';
  if (ours && !waiting && !arrived && item.status.rung !== 'handed on') actions.push('retry');
  actions.push(item.filedAt === null ? 'file' : 'unfile');
  return actions;
}

const ACTION_WORDS: Record<ItemAction, string> = {
  retry: 'Try again',
  cancel: 'Stop trying',
  file: 'File it',
  unfile: 'Take back from filed',
  release: 'Let it go out',
};

/** The way by which an answer goes: the one that it came by. */
function wayOf(item: ItemDetail, bearers: readonly BearerView[]): string | undefined {
  const came = item.evidence.find(({ kind }) => kind === 'delivered')?.bearer;
  const kind = bearers.find(({ id }) => id === came)?.config.kind;
  return kind && consoleKind(kind).composer?.id;
}

/** A draft by the command that was answered, to the same far side, without its words; begun already it stays as it is. */
function answerBy({ address, command, values: { text: _text, ...values } }: SentCommand, answers: string): string {
  const { writeTo, change } = useDrafts.getState();
  const draft = writeTo({ addressee: address, answers, way: 'service' });
  const begun = useDrafts.getState().drafts[draft];
  if (begun?.way === 'service' && begun.command === '') change({ command, values });
  return draft;
}

/** Whom it was with in the end: a person behind a service, a group, or the station. */
const whoOf = ({ person, command, direction, sender, addressee }: ItemDetail): string =>
  person ?? command?.values.to ?? command?.values.group ?? (direction === 'in' ? sender : addressee);

const CAUSEWAY_MEANING =
  'Dotted: planned, or nothing heard of it when it ended. Thin line: sent. Half filled: heard repeated. Filled: accepted. Rim: acknowledged from beyond; a broken rim is inferred. Gap: given up.';

/** One item: its road, what the evidence says, what would prove more, and every record. */
export function ItemPanel({ id, openPacket }: { id: string; openPacket: (id: string) => void }) {
  const item = useItem(id);
  const bearers = useBearers();
  const settings = useSettings();
  const [width, setWidth] = useState(0);
  const act = useChange((action: ItemAction) => api.act(id, action), ['items', 'item']);
  const markRead = useReadMarks((store) => store.markRead);
  const shown = item.isSuccess ? readWith(item.data).join('\n') : '';
  useEffect(() => {
    if (shown !== '') markRead(...shown.split('\n'));
  }, [shown, markRead]);
  const writeTo = useDrafts((store) => store.writeTo);
  if (item.isPending)
    return (
      <Page title="Item">
        <Waiting what="the item" />
      </Page>
    );
  if (item.isLoadingError)
    return (
      <Page title="Item">
        <Trouble error={item.error} retry={() => void item.refetch()} />
      </Page>
    );
  const { data } = item;
  const { status } = data;
  const arrived = data.direction === 'in';
  // What came through a service is answered through it: to its bare address a text would have to be worded by hand.
  const behind = data.question?.command ?? null;
  const answerDraft = () =>
    writeTo({
      addressee: data.sender,
      answers: data.id,
      way: wayOf(data, bearers.data ?? []) ?? 'radio',
      subject: data.kind === 'mail' ? `Re: ${data.subject ?? ''}` : '',
    });
  const answerWith = (text: string) => {
    const draft = answerDraft();
    const { drafts, change } = useDrafts.getState();
    // What was begun as an answer is not lost.
    if ((drafts[draft]?.body ?? '') === '') change({ body: text });
    router.navigate(`/write?draft=${draft}`);
  };
  const held = data.legs.find((leg) => leg.held !== null && leg.nextAt !== null)?.held;
  return (
    <Page title={arrived ? `From ${data.sender}` : `To ${data.addressee}`}>
      <Row gap={12} wrap below={8}>
        <Instant iso={data.createdAt} />
        <Body soft>{data.kind === 'text' ? data.precedence : data.kind}</Body>
        {data.number ? <Mono soft aria-label={`number ${data.number}`}>{`no. ${data.number}`}</Mono> : null}
      </Row>
      {data.subject ? (
        <Heading level={2} below={4}>
          {data.subject}
        </Heading>
      ) : null}
      <Body size={20} line={28} below={16} selectable>
        {data.body}
      </Body>
      <KnownOf who={arrived ? data.sender : data.addressee} at={data.createdAt} />
      {data.cc.length > 0 ? <Body soft>{`Copy to ${data.cc.join(', ')}`}</Body> : null}
      {data.attachments.length > 0 || data.kind === 'mail' ? (
        <Row wrap gap={8} below={16}>
          {data.attachments.map((file) => (
            <Button
              key={file.id}
              title={`Save ${file.name}, ${octetsInWords(file.octets)}`}
              icon="paperclip"
              kind="plain"
              onPress={() => saveFile(api.attachmentUrl(file.id))}
            />
          ))}
          {data.kind === 'mail' ? (
            <Button
              title="Save as message file"
              icon="download-outline"
              kind="plain"
              onPress={() => saveFile(api.messageUrl(data.id))}
            />
          ) : null}
        </Row>
      ) : null}

      <Stack onLayout={(event: LayoutChangeEvent) => setWidth(event.nativeEvent.layout.width)} below={8}>
        {data.causeway && width > 0 ? <Causeway road={data.causeway} width={Math.min(width, 620)} large /> : null}
      </Stack>
      <ItemState item={data} />
      <Brought item={data} />
      <Question item={data} />
      <Parts item={data} answer={answerWith} />

      {held ? <Notice title="Held back">{`${held}. It goes out when you let it.`}</Notice> : null}
      {act.isError ? (
        <Notice kind="alarm" title="That did not work">
          {act.error.message}
        </Notice>
      ) : null}
      <Row wrap gap={8} below={16}>
        {arrived && data.kind !== 'bulletin' && status.rung !== 'answered' ? (
          <Button
            title={`Answer ${behind ? (data.person ?? data.sender) : data.sender}`}
            icon="reply-outline"
            onPress={() => {
              if (behind) return router.navigate(`/write?draft=${answerBy(behind, data.id)}`);
              router.navigate(`/write?draft=${answerDraft()}`);
            }}
          />
        ) : null}
        {data.command ? <CommandAgain command={data.command} /> : null}
        {actionsFor(data).map((action) => (
          <Button
            key={action}
            title={ACTION_WORDS[action]}
            kind={action === 'retry' || action === 'release' ? 'main' : 'plain'}
            busy={act.isPending && act.variables === action}
            onPress={() => act.mutate(action)}
          />
        ))}
      </Row>

      {arrived && data.kind === 'text' && status.rung !== 'answered' && !behind && settings.data ? (
        <QuickAnswers settings={settings.data} sender={data.sender} answer={answerWith} />
      ) : null}

      {arrived ? <RelayDesk item={data} /> : <OtherWay item={data} />}

      <Stack align="start" below={8}>
        <Button
          title={`All that passed with ${whoOf(data)}`}
          kind="plain"
          href={`/traffic/with?who=${encodeURIComponent(whoOf(data))}`}
        />
      </Stack>

      <Heading level={2}>What proves it</Heading>
      <EvidenceList
        evidence={data.evidence}
        arrived={arrived}
        arrivedLegs={data.legs
          .filter(({ nextAt, triesMade, role }) => role === 'convey' && nextAt === null && triesMade === 0)
          .map((leg) => leg.id)}
        bearers={bearers.data ?? []}
        openPacket={openPacket}
      />
      <TakeAlong text={itemAsText(data)} about="this item with what proves it" print />
      <CustodyList custody={data.custody} bearers={bearers.data ?? []} />
      <Predicted predictions={data.predictions} />
      <Stack above={12}>
        <TermHelp term="evidence" />
        <TermHelp term="acknowledgement" />
        <Body soft>{CAUSEWAY_MEANING}</Body>
      </Stack>
    </Page>
  );
}

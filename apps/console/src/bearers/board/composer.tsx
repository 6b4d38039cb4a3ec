import { newPost } from '@tombolo/contract';
import { connectionSeconds, octetsOfText } from '@tombolo/core';
import { View } from 'react-native';
import { api } from '../../live/api';
import { useBearers, useSettings } from '../../live/queries';
import { Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { Waiting } from '../../ui/page';
import { Body } from '../../ui/text';
import { aboutSeconds } from '../about';
import { useDraft } from '../../live/draft';
import { SendButton, useSending } from '../sending';
import type { Composer } from '../kind';

/** A message to be left at a board in the next session: to one station, or a bulletin for all. */
function BoardMessage() {
  const bearers = useBearers();
  const settings = useSettings();
  const draft = useDraft();
  const { send, busy, error } = useSending(api.queuePost);
  const board = bearers.data?.find(({ config, enabled }) => enabled && config.kind === 'board');
  if (!board || board.config.kind !== 'board' || !settings.data) return <Waiting what="the boards" />;
  const post = {
    bearerId: board.id,
    bulletin: draft.bulletin,
    to: draft.addressee,
    subject: draft.subject,
    body: draft.body,
  };
  const checked = newPost.safeParse({ ...post, id: crypto.randomUUID() });
  const problem = (field: string, value: string) =>
    value === '' ? undefined : checked.error?.issues.find(({ path }) => path[0] === field)?.message;
  const octets = octetsOfText(draft.body).length;
  return (
    <View>
      <Choice<'private' | 'bulletin'>
        label="Kind"
        value={draft.bulletin ? 'bulletin' : 'private'}
        onChange={(kind) => draft.change({ bulletin: kind === 'bulletin' })}
        options={[
          { id: 'private', title: 'To one station', hint: 'WHO@BOARD; whoever listens can read it all the same.' },
          { id: 'bulletin', title: 'Bulletin for all', hint: 'TOPIC@AREA; boards hand it to each other.' },
        ]}
      />
      <Field
        label="To"
        mono
        value={draft.addressee}
        onChangeText={(addressee) => draft.change({ addressee: addressee.toUpperCase() })}
        autoCapitalize="characters"
        maxLength={60}
        error={problem('to', draft.addressee)}
        hint={draft.bulletin ? 'Such as NEWS@SOUND' : `Such as QT1NC@${board.config.call}`}
      />
      <Field
        label="Subject"
        value={draft.subject}
        onChangeText={(subject) => draft.change({ subject })}
        maxLength={60}
        error={problem('subject', draft.subject)}
      />
      <Field
        label="Text"
        value={draft.body}
        onChangeText={(body) => draft.change({ body })}
        multiline
        hint={`${octets} octets, ${aboutSeconds(connectionSeconds(octets, board.config.path.length))} with the session`}
      />
      <SendButton
        kind="board"
        settings={settings.data}
        title={`Put in the queue for ${board.config.call}, to be left in the next session`}
        disabled={!checked.success}
        busy={busy}
        error={error}
        onPress={() => send(post)}
      />
      <Body soft style={{ marginTop: 8 }}>
        Nothing is encrypted on amateur bands. You start the session yourself, under Links.
      </Body>
    </View>
  );
}

export const boardMessage: Composer = { id: 'board', title: 'Board', Form: BoardMessage };

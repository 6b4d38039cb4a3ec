import { addressesOf, locksOf } from '@tombolo/contract';
import { connectionSeconds, octetsOfText } from '@tombolo/core';
import { View } from 'react-native';
import { KnownOf } from '../../live/known-of';
import { useBearers, usePeople, useSettings } from '../../live/queries';
import { Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { Offers } from '../../ui/offers';
import { Waiting } from '../../ui/page';
import { Body } from '../../ui/text';
import { aboutSeconds } from '../about';
import { useDraft } from '../../drafts/drafts';
import { reachedBy, toAddress } from '../people';
import { faultsOf, SendButton, useSending, type Written } from '../sending';
import { UnderText } from '../under-text';
import { Urgency } from '../urgency';

/** A message to be left at a board in the next session: to one station, or a bulletin for all. */
export default function BoardMessage() {
  const bearers = useBearers();
  const settings = useSettings();
  const people = usePeople();
  const draft = useDraft();
  const { send, busy, error } = useSending();
  const board = bearers.data?.find(({ config, enabled }) => enabled && config.kind === 'board');
  if (!board || board.config.kind !== 'board' || !settings.data) return <Waiting what="the boards" />;
  const { bulletin, subject, body } = draft;
  const written: Written = {
    addressee: toAddress(draft.addressee),
    content: { is: 'message', bulletin, subject, body },
    way: { by: 'messages', bearerId: board.id },
    answers: draft.answers,
  };
  const faults = faultsOf(written);
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
        error={faults.at('addressee', draft.addressee)}
        hint={draft.bulletin ? 'Such as NEWS@SOUND' : `Such as QT1NC@${board.config.call}`}
      />
      {draft.bulletin ? null : (
        <Offers
          label="People"
          mono
          words={reachedBy('board', people.data ?? [])
            .map((person) => addressesOf(person, 'board')[0]!)
            .filter((address) => address !== draft.addressee && address.startsWith(draft.addressee))
            .slice(0, 6)}
          choose={(addressee) => draft.change({ addressee })}
        />
      )}
      <KnownOf who={draft.addressee} />
      <Field
        label="Subject"
        value={draft.subject}
        onChangeText={(subject) => draft.change({ subject })}
        maxLength={60}
        error={faults.at('content.subject', subject)}
      />
      <Field
        label="Text"
        value={draft.body}
        onChangeText={(body) => draft.change({ body })}
        multiline
        hint={`${octets} octets, ${aboutSeconds(connectionSeconds(octets, board.config.path.length))} with the session`}
      />
      <UnderText />
      <Urgency />
      <SendButton
        locks={locksOf(board.config.kind, settings.data)}
        settings={settings.data}
        title={`Put in the queue for ${board.config.call}, to go out in the next session`}
        disabled={faults.complete ? false : 'Something above is missing or not right yet.'}
        busy={busy}
        error={error}
        onPress={() => send(written)}
      />
      <Body soft above={8}>
        Nothing is encrypted on amateur bands. You start the session yourself, under Bearers.
      </Body>
    </View>
  );
}

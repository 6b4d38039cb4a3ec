import { autoAnswer, type AutoAnswer, type Settings } from '@tombolo/contract';
import { AUTOMATIC_MARK, MAX_MESSAGE_TEXT, octetsOfText } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../../../live/api';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { CheckRow } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { Row } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';

const USUAL = 'your text came. I read it when I am back.';

/** What is told by itself to whoever writes to us, kept apart from the other settings: it is set when one leaves, and ended when one is back. */
export function AutomaticAnswer({ settings }: { settings: Settings }) {
  const kept = settings.autoAnswer;
  const [text, setText] = useState(kept?.text ?? USUAL);
  const [always, setAlways] = useState(kept?.hours == null);
  const [from, setFrom] = useState(kept?.hours?.from ?? '22:00');
  const [to, setTo] = useState(kept?.hours?.to ?? '06:00');
  const [tried, setTried] = useState(false);
  const keep = useChange((next: AutoAnswer | null) => api.changeSettings({ autoAnswer: next }), ['settings']);
  const read = autoAnswer.safeParse({ text, hours: always ? null : { from, to } });
  const fault = (...at: string[]) =>
    tried ? read.error?.issues.find(({ path }) => path.join('.') === at.join('.'))?.message : undefined;
  return (
    <View>
      <Heading level={2}>While nobody is at the key</Heading>
      <Body below={8}>
        {kept
          ? `Whoever writes is told: “${AUTOMATIC_MARK}${kept.text}”${kept.hours ? `, from ${kept.hours.from}Z to ${kept.hours.to}Z` : ''}.`
          : 'Whoever writes is told nothing but the acknowledgement.'}
      </Body>
      <Field
        label="What is told"
        value={text}
        onChangeText={setText}
        error={fault('text')}
        hint={`${octetsOfText(AUTOMATIC_MARK + text).length} of ${MAX_MESSAGE_TEXT} characters, with “${AUTOMATIC_MARK.trim()}” in front. Once an hour to each station at most; to no service, no group and no other automaton.`}
      />
      <CheckRow label="At any hour" checked={always} onChange={setAlways} />
      {always ? null : (
        <>
          <Field label="From, UTC" mono value={from} onChangeText={setFrom} error={fault('hours', 'from')} />
          <Field label="To, UTC" mono value={to} onChangeText={setTo} error={fault('hours', 'to')} />
        </>
      )}
      {keep.isError ? (
        <Notice kind="alarm" title="Not kept; what you entered is still here">
          {keep.error.message}
        </Notice>
      ) : null}
      <Row wrap gap={8}>
        <Button
          title={kept ? 'Tell it so from now on' : 'Tell whoever writes'}
          kind="plain"
          busy={keep.isPending}
          onPress={() => {
            setTried(true);
            if (read.success) keep.mutate(read.data);
          }}
        />
        {kept ? (
          <Button
            title="I am back: tell nothing"
            kind="plain"
            busy={keep.isPending}
            onPress={() => keep.mutate(null)}
          />
        ) : null}
      </Row>
    </View>
  );
}

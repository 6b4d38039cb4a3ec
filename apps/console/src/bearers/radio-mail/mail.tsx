import { addressesOf, locksOf, MOST_MAIL_OCTETS, personNamed } from '@tombolo/contract';
import { connectionSeconds, octetsOfText } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { KnownOf } from '../../live/known-of';
import { useBearers, usePeople, useSettings } from '../../live/queries';
import { Button } from '../../ui/button';
import { FileButton } from '../../ui/file-button';
import { Field } from '../../ui/field';
import { Row, Stack } from '../../ui/layout';
import { Offers } from '../../ui/offers';
import { Notice, Waiting } from '../../ui/page';
import { octetsInWords } from '../../ui/quantity';
import { Body, Mono } from '../../ui/text';
import { aboutSeconds } from '../about';
import type { Attached } from '../../drafts/draft';
import { useDraft } from '../../drafts/drafts';
import { peopleToOffer, reachedBy, toAddress, toPerson } from '../people';
import { faultsOf, SendButton, useSending, type Written } from '../sending';
import { Urgency } from '../urgency';
import { UnderText } from '../under-text';

const HEADER_OCTETS = 600;

export const addressList = (text: string): string[] =>
  text
    .split(/[\s,;]+/)
    .map((address) => address.trim())
    .filter(Boolean);

/** Base64 in lines, as it crosses the air. */
const encodedOctets = (octets: number): number => Math.ceil(octets / 3) * 4 * (78 / 76) + 200;

function readFile(file: File): Promise<Attached> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onerror = () => reject(new Error(`“${file.name}” cannot be read`));
    reader.onload = () =>
      resolve({
        name: file.name.replace(/[\r\n]+/g, ' ').slice(0, 100),
        type: /^[\w.+-]+\/[\w.+-]+$/.test(file.type) ? file.type : 'application/octet-stream',
        base64: String(reader.result).split(',')[1] ?? '',
        octets: file.size,
      });
    reader.readAsDataURL(file);
  });
}

/** A mail to be submitted in the next session with the gateway. */
export default function Mail() {
  const bearers = useBearers();
  const settings = useSettings();
  const people = usePeople();
  const draft = useDraft();
  const attached = draft.attachments;
  const [refused, setRefused] = useState<string | null>(null);
  const { send, busy, error } = useSending();
  const gateway = bearers.data?.find(({ config, enabled }) => enabled && config.kind === 'radio-mail');
  if (!gateway || gateway.config.kind !== 'radio-mail' || !settings.data) return <Waiting what="the mail gateway" />;
  const digipeaters = gateway.config.path.length;
  const withMail = reachedBy('mail', people.data ?? []);
  const person = personNamed(draft.addressee, withMail);
  const [to = '', ...alsoTo] = addressList(draft.addressee.toLowerCase());
  const written: Written = {
    addressee: person ? toPerson(person) : toAddress(to),
    content: {
      is: 'mail',
      alsoTo: person ? [] : alsoTo,
      cc: addressList(draft.cc.toLowerCase()),
      subject: draft.subject,
      body: draft.body,
      attachments: attached.map(({ name, type, base64 }) => ({ name, type, base64 })),
    },
    way: { by: 'mail', bearerId: gateway.id },
    answers: draft.answers,
  };
  const faults = faultsOf(written);
  const octets = Math.round(
    HEADER_OCTETS +
      octetsOfText(draft.body).length +
      attached.reduce((sum, file) => sum + encodedOctets(file.octets), 0),
  );
  const tooLarge = octets > MOST_MAIL_OCTETS;
  const add = async (file: File) => {
    setRefused(null);
    const whole = octets + encodedOctets(file.size);
    if (whole > MOST_MAIL_OCTETS) {
      setRefused(
        `“${file.name}” would make it ${Math.round(whole / 1000)} kB and hold the channel for ${aboutSeconds(connectionSeconds(whole, digipeaters))}; at most ${MOST_MAIL_OCTETS / 1000} kB go by radio.`,
      );
      return;
    }
    try {
      // It belongs to the draft that it was chosen for, whatever is shown when it has been read.
      draft.change({ attachments: [...attached, await readFile(file)] }, draft.id);
    } catch (failure) {
      setRefused((failure as Error).message);
    }
  };
  return (
    <View>
      <Field
        label="To"
        value={draft.addressee}
        onChangeText={(addressee) => draft.change({ addressee })}
        autoCapitalize="none"
        inputMode="email"
        error={faults.at('addressee', draft.addressee) ?? faults.at('content.alsoTo', draft.addressee)}
        hint={
          person
            ? addressesOf(person, 'mail')[0]
            : draft.answers
              ? 'This answers the mail you opened.'
              : 'One or more addresses, with commas between, or somebody of your list'
        }
      />
      <Offers
        label="People"
        words={peopleToOffer(draft.addressee, withMail)}
        choose={(addressee) => draft.change({ addressee, answers: null })}
      />
      <KnownOf who={draft.addressee} />
      <Field
        label="Copy to"
        value={draft.cc}
        onChangeText={(cc) => draft.change({ cc })}
        autoCapitalize="none"
        error={faults.at('content.cc', draft.cc)}
      />
      <Field
        label="Subject"
        value={draft.subject}
        onChangeText={(subject) => draft.change({ subject })}
        maxLength={200}
      />
      <Field label="Text" value={draft.body} onChangeText={(body) => draft.change({ body })} multiline />
      <UnderText />
      <Stack align="start" gap={8} below={12}>
        <FileButton
          title="Attach a small file"
          icon="paperclip"
          kind="plain"
          label="Attachment"
          onFile={(file) => void add(file)}
        />
        {attached.map((file) => (
          <Row key={file.name} wrap gap={8} align="center">
            <Mono>{`${file.name}, ${octetsInWords(file.octets)}`}</Mono>
            <Button
              title="Take it out"
              about={file.name}
              kind="plain"
              onPress={() => draft.change({ attachments: attached.filter((other) => other !== file) })}
            />
          </Row>
        ))}
      </Stack>
      {refused ? (
        <Notice kind="alarm" title="Not attached">
          {refused}
        </Notice>
      ) : null}
      <Body soft below={8}>
        {`About ${octets} octets, ${aboutSeconds(connectionSeconds(octets, digipeaters))} by radio.`}
      </Body>
      <Urgency />
      <SendButton
        locks={locksOf(gateway.config.kind, settings.data)}
        settings={settings.data}
        title={`Put in the queue for ${gateway.config.call}, to go out in the next session`}
        disabled={
          tooLarge
            ? 'It is too large for this gateway.'
            : faults.complete
              ? false
              : 'Something above is missing or not right yet.'
        }
        busy={busy}
        error={error}
        onPress={() => send(written)}
      />
      <Body soft above={8}>
        In the clear, and no business mail where your rules forbid it. You start the session yourself, under Bearers.
      </Body>
    </View>
  );
}

import { locksOf, ownStation, sendsPackets, transmitLocks, type KeptService, type Settings } from '@tombolo/contract';
import {
  fillCommand,
  MAX_MESSAGE_TEXT,
  octetsOfText,
  previewOf,
  roomFor,
  type ServiceCommand as Command,
} from '@tombolo/core';
import { useEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import { useDraft } from '../../../drafts/drafts';
import { KnownOf } from '../../../live/known-of';
import { useBearers, usePeople, useSettings } from '../../../live/queries';
import { useJoined, useServices } from '../../../live/services';
import { PhraseChips } from '../../../phrases/phrase-chips';
import { Button } from '../../../ui/button';
import { CheckRow } from '../../../ui/choice';
import { Chips } from '../../../ui/chips';
import { Field } from '../../../ui/field';
import { nextFieldByEnter } from '../../../ui/keys';
import { Row, Stack } from '../../../ui/layout';
import { Notice, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading, Mono } from '../../../ui/text';
import { SendButton, useSending } from '../../sending';
import { UnderText, useProposedPaths } from '../../under-text';
import { Urgency } from '../../urgency';
import { planText, transmitterOf } from '../plan';
import { offersFor, type Known } from './known';
import { FieldOffers } from './field-offers';

/** A command to a service: which, with what, what goes out exactly, and what its answer will prove. */
export default function ServiceCommand() {
  const services = useServices();
  const settings = useSettings();
  const trouble = services.isError ? services : settings.isError ? settings : null;
  if (trouble) return <Trouble error={trouble.error!} retry={() => void trouble.refetch()} />;
  if (!services.data || !settings.data) return <Waiting what="the services" />;
  if (services.data.length === 0)
    return (
      <Notice title="No service is known yet">
        <Body>
          Gateways answer texts to certain addresses: they write to phones, send mail, keep groups. Enter those of your
          district.
        </Body>
        <Button title="Go to Services" kind="plain" href="/tools/services" />
      </Notice>
    );
  return <Chosen services={services.data} settings={settings.data} />;
}

function Chosen({ services, settings }: { services: readonly KeptService[]; settings: Settings }) {
  const draft = useDraft();
  const joined = useJoined();
  const service = services.find(({ address }) => address === draft.addressee.trim().toUpperCase());
  const command = service?.commands.find(({ id }) => id === draft.command) ?? service?.commands[0];
  return (
    <View>
      {joined.data && joined.data.length > 0 ? (
        <Stack below={12}>
          <Heading level={2}>Joined</Heading>
          <Row role="group" aria-label="Joined" wrap gap={8}>
            {joined.data.map(({ address, leave, title, values }) => (
              <Button
                key={`${address} ${JSON.stringify(values)}`}
                title={`${title}: ${Object.values(values).join(' ')}`}
                kind="plain"
                onPress={() => draft.change({ addressee: address, command: leave, values, answers: null })}
              />
            ))}
          </Row>
        </Stack>
      ) : null}
      <Heading level={2}>Service</Heading>
      <Chips
        label="Service"
        options={services.map(({ address, name }) => ({ id: address, title: name }))}
        value={service?.address ?? ''}
        onChange={(address) => draft.change({ addressee: address, command: '', values: {}, answers: null })}
      />
      {service ? (
        <Body soft around={8}>
          {[service.purpose, `By texts to ${service.address}${service.reached ? `, ${service.reached}` : ''}.`].join(
            ' ',
          )}
        </Body>
      ) : (
        <Body soft around={8}>
          Choose what it goes by: what it asks for appears here.
        </Body>
      )}
      {service && service.commands.length > 1 ? (
        <Stack below={16}>
          <Heading level={2}>What for</Heading>
          <Chips
            label="What for"
            options={service.commands.map(({ id, title }) => ({ id, title }))}
            value={command?.id ?? ''}
            onChange={(id) => draft.change({ command: id })}
          />
        </Stack>
      ) : null}
      {service && command ? (
        <CommandForm key={`${service.address} ${command.id}`} service={service} command={command} settings={settings} />
      ) : null}
    </View>
  );
}

interface CommandFormProps {
  service: KeptService;
  command: Command;
  settings: Settings;
}

function CommandForm({ service, command, settings }: CommandFormProps) {
  const draft = useDraft();
  const people = usePeople();
  const bearers = useBearers();
  const proposed = useProposedPaths();
  const { send, busy, error } = useSending();
  const form = useRef<View>(null);
  const [tried, setTried] = useState(false);
  useEffect(() => nextFieldByEnter(form.current as unknown as HTMLElement), []);
  const modems = bearers.data?.filter(({ config, enabled }) => sendsPackets(config) && enabled) ?? [];
  const modem = modems.find(({ state }) => state.link === 'up') ?? modems[0];
  const known: Known = { settings, people: people.data ?? [] };
  const typed = { ...draft.values, text: draft.body };
  const filled = fillCommand(command, typed);
  const faults = filled.ok ? {} : filled.faults;
  const body = filled.ok ? filled.text : previewOf(command, typed);
  const plan = planText(
    {
      ...draft,
      addressee: service.address,
      body: filled.ok ? body : '',
      askAcknowledgement: command.asksAcknowledgement,
    },
    transmitterOf(modem),
    ownStation(settings),
    proposed,
  );
  const placed = settings.position !== null || settings.positionSource.by !== 'typed';
  const positionFirst = command.positionFirst && draft.positionFirst && placed;
  const submit = () => {
    setTried(true);
    if (!filled.ok || !modem) return;
    send({
      addressee: { is: 'address', address: service.address },
      content: { is: 'command', command: command.id, values: { ...filled.values }, positionFirst },
      way: { by: 'packets', bearerId: modem.id, path: plan.path, askAcknowledgement: command.asksAcknowledgement },
      answers: draft.answers,
    });
  };
  return (
    <View>
      <View ref={form}>
        {command.fields.map((field) => {
          const isText = field.kind === 'text';
          const value = isText ? draft.body : (draft.values[field.id] ?? '');
          const change = (text: string) =>
            draft.change(
              isText ? { body: text.replace(/[\r\n]+/g, ' ') } : { values: { ...draft.values, [field.id]: text } },
            );
          const fault = tried || value.trim() !== '' ? faults[field.id] : undefined;
          return (
            <View key={field.id}>
              <Field
                label={field.title}
                value={value}
                onChangeText={change}
                multiline={isText}
                mono={!isText && field.kind !== 'place'}
                inputMode={field.kind === 'phone' ? 'tel' : field.kind === 'mail' ? 'email' : undefined}
                autoCapitalize={isText ? 'sentences' : field.kind === 'mail' ? 'none' : 'characters'}
                error={fault}
                hint={isText ? roomWords(command, typed, faults) : field.optional ? 'May be left out' : undefined}
              />
              {isText ? (
                <PhraseChips text={value} change={change} />
              ) : (
                <>
                  <FieldOffers label={field.title} offers={offersFor(field, known, value)} choose={change} />
                  <KnownOf who={value} />
                </>
              )}
            </View>
          );
        })}
      </View>
      {command.positionFirst ? (
        <CheckRow
          label="Send our position first"
          checked={positionFirst}
          onChange={(to) => draft.change({ positionFirst: to })}
          disabled={placed ? false : 'It is not known where this station is: enter its position under Tools.'}
          hint="The service uses where we were heard last."
        />
      ) : null}
      <Heading level={2}>What goes out</Heading>
      <Mono selectable aria-label="What goes out" below={4}>
        {`${service.address}: ${body}`}
      </Mono>
      <Body soft below={12}>
        {[
          `${octetsOfText(body).length} of ${MAX_MESSAGE_TEXT} octets`,
          plan.airTimeS === null ? null : `${plan.airTimeS.toFixed(2)} s on the air`,
          answerWords(command, service),
        ]
          .filter(Boolean)
          .join(' · ')}
      </Body>
      {command.cautions.map((caution) => (
        <Body key={caution} below={4}>
          {caution}
        </Body>
      ))}
      {bearers.data && !modem ? (
        <Notice kind="alarm" title="No modem">
          <Body>No bearer that can transmit is set up. What you wrote is kept here.</Body>
          <Button title="Go to Bearers" kind="plain" href="/bearers" />
        </Notice>
      ) : null}
      <UnderText />
      <Urgency triedHere />
      <SendButton
        locks={modem ? locksOf(modem.config.kind, settings) : transmitLocks(settings)}
        settings={settings}
        title={positionFirst ? `Send our position, then this` : plan.buttonWords}
        disabled={modem ? (filled.ok ? false : missingWords(command, faults)) : 'There is no modem that could send it.'}
        busy={busy}
        error={error}
        onPress={submit}
      />
      <Stack above={8}>
        <Body soft>
          Nothing is encrypted on amateur bands, and everybody can read it. Your licence, your local rules and your
          agency’s plan come first. Texts for people without a licence are third-party traffic: you answer for them.
        </Body>
      </Stack>
    </View>
  );
}

/** How long the text may be: that is known once what goes before it is. */
function roomWords(
  command: Command,
  typed: Readonly<Record<string, string>> & { readonly text: string },
  faults: Readonly<Record<string, string>>,
): string {
  const octets = octetsOfText(typed.text).length;
  return Object.keys(faults).some((id) => id !== 'text')
    ? `${octets} octets; how many fit is told when the rest is entered`
    : `${octets} of ${roomFor(command, typed, 'text')} octets with what goes before it`;
}

const missingWords = (command: Command, faults: Readonly<Record<string, string>>): string => {
  const [id, fault] = Object.entries(faults)[0] ?? ['', ''];
  return `${command.fields.find((field) => field.id === id)?.title ?? 'A field'}: ${fault}.`;
};

/** What is to be expected of an answer. */
function answerWords({ id, answerWithinS }: Command, { answers }: KeptService): string {
  const proves = answers.filter(({ of }) => of.length === 0 || of.includes(id)).map((answer) => answer.proves);
  const within =
    answerWithinS < 5400 ? `${Math.round(answerWithinS / 60)} min` : `${Math.round(answerWithinS / 3600)} h`;
  if (proves.includes('told')) return `its answer comes within about ${within}`;
  if (proves.includes('answer')) return `it says that it took it; an answer of the person may take ${within}`;
  return proves.includes('taken')
    ? `it says within about ${within} that it took it`
    : 'nothing that it says is understood here';
}

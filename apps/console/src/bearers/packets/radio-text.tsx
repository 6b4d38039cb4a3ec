import { MAX_MESSAGE_TEXT, parseStationCall, PATH_SCHOOLS, type PathSchool } from '@tombolo/core';
import {
  addressesOf,
  locksOf,
  ownStation,
  personNamed,
  sendsPackets,
  transmitLocks,
  type Person,
  type StationView,
} from '@tombolo/contract';
import { useMemo } from 'react';
import { View } from 'react-native';
import { KnownOf } from '../../live/known-of';
import { useBearers, usePeople, useSettings, useStations } from '../../live/queries';
import { useTacticalNames } from '../../live/tactical';
import { Button } from '../../ui/button';
import { CheckRow, Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { Stack } from '../../ui/layout';
import { Offers } from '../../ui/offers';
import { Notice, Trouble, Waiting } from '../../ui/page';
import { TermHelp } from '../../ui/terms';
import { PhraseChips } from '../../phrases/phrase-chips';
import { Body } from '../../ui/text';
import type { DraftChange, DraftView } from '../../drafts/draft';
import { useDraft } from '../../drafts/drafts';
import { asItGoes, broughtWords, HandOver } from '../hand-over';
import { LongText } from '../long-text';
import { reachedBy, toAddress } from '../people';
import { SendButton, useSending } from '../sending';
import { planText, transmitterOf } from './plan';
import { UnderText, useProposedPaths } from '../under-text';
import { Urgency } from '../urgency';

/** A text by packet radio: whom to, what, and the path, with what each costs; one button says what it will do. */
export default function RadioText() {
  const settings = useSettings();
  const stations = useStations();
  const people = usePeople();
  const bearers = useBearers();
  const draft = useDraft();
  const { send, busy, error } = useSending();
  const own = settings.data ? ownStation(settings.data) : null;
  const modems = bearers.data?.filter((bearer) => sendsPackets(bearer.config) && bearer.enabled) ?? [];
  const modem = modems.find((bearer) => bearer.state.link === 'up') ?? modems[0];
  const proposed = useProposedPaths();
  const plan = useMemo(
    () => planText({ ...draft, body: asItGoes(draft, draft.body) }, transmitterOf(modem), own, proposed),
    [draft, modem, own, proposed],
  );
  if (settings.isLoadingError) return <Trouble error={settings.error} retry={() => void settings.refetch()} />;
  if (!settings.data) return <Waiting what="settings" />;

  const complete = draft.addressee.trim() !== '' && draft.body.trim() !== '' && plan.airTimeS !== null;
  const problem = plan.addresseeProblem ?? plan.textProblem ?? plan.pathProblem;
  const submit = () => {
    if (!modem || !complete || problem) return;
    send({
      addressee: toAddress(draft.addressee),
      content: { is: 'text', body: asItGoes(draft, draft.body), inParts: draft.inParts && plan.parts > 1 },
      way: {
        by: 'packets',
        bearerId: modem.id,
        path: plan.path,
        askAcknowledgement: draft.askAcknowledgement,
        ...(plan.times !== null && { times: plan.times }),
      },
      answers: draft.answers,
    });
  };

  return (
    <View>
      <AddresseeField
        draft={draft}
        heard={heardByCall(stations.data ?? [])}
        people={people.data ?? []}
        problem={plan.addresseeProblem}
      />
      <KnownOf who={draft.addressee} />
      <Field
        label="Text"
        value={draft.body}
        onChangeText={(body) => draft.change({ body: body.replace(/[\r\n]+/g, ' ') })}
        multiline
        error={plan.textProblem ?? undefined}
        hint={lengthWords(plan.octets, plan.airTimeS, plan.channelTimeS, plan.parts)}
      />
      <LongText
        settings={settings.data}
        mostOctets={MAX_MESSAGE_TEXT}
        airS={plan.airS}
        unplain={/[^ -z]/.test(draft.body)}
      />
      <PhraseChips text={draft.body} change={(body) => draft.change({ body })} />
      <HandOver />
      <UnderText />

      <Choice<DraftView['school']>
        label="Path"
        value={draft.school === 'own' ? 'own' : plan.school}
        onChange={(school) => draft.change({ school })}
        options={[
          ...PATH_SCHOOLS.map((school) => ({
            id: school.id as PathSchool,
            title: school.path.length > 0 ? school.path.join(',') : 'No digipeater',
            hint: plan.hints[school.id],
          })),
          { id: 'own' as const, title: 'Another path', hint: 'Where the local plan asks for it.' },
        ]}
      />
      {draft.school === 'own' ? (
        <Field
          label="Path elements"
          mono
          value={draft.ownPath}
          onChangeText={(ownPath) => draft.change({ ownPath })}
          autoCapitalize="characters"
          hint="Separated by commas, at most eight"
          error={plan.pathProblem ?? undefined}
        />
      ) : null}
      <CheckRow
        label="Ask for an acknowledgement"
        checked={draft.askAcknowledgement}
        onChange={(askAcknowledgement) => draft.change({ askAcknowledgement })}
        hint={
          draft.askAcknowledgement
            ? `The text is numbered and tried up to ${plan.times ?? settings.data.retry.tries} times until ${draft.addressee || 'the addressee'} acknowledges.${plan.times === null ? '' : ' So many were reckoned for this way.'}`
            : 'Sent once. It may be heard repeated, but nothing will prove that it arrived.'
        }
      />

      {bearers.data && !modem ? (
        <Notice kind="alarm" title="No modem">
          <Body>No bearer that can transmit is set up. Your text is kept here.</Body>
          <Button title="Go to Bearers" kind="plain" href="/bearers" />
        </Notice>
      ) : null}
      {modem && modem.state.link !== 'up' ? (
        <Notice
          title={`${modem.name} is down`}
        >{`${modem.state.reason ?? 'It is not connected.'} The text waits and goes out when the bearer is up.`}</Notice>
      ) : null}
      <Urgency triedHere />
      <SendButton
        locks={modem ? locksOf(modem.config.kind, settings.data) : transmitLocks(settings.data)}
        settings={settings.data}
        title={`${plan.buttonWords}${broughtWords(draft)}`}
        disabled={
          !modem
            ? 'There is no modem that could send it.'
            : complete && problem === null
              ? false
              : 'Something above is missing or not right yet.'
        }
        busy={busy}
        error={error}
        onPress={submit}
      />
      <Stack above={8}>
        <TermHelp term="path" />
        <TermHelp term="acknowledgement" />
        <Body soft>
          Nothing is encrypted on amateur bands, and everybody can read it. Your licence, your local rules and your
          agency’s plan come first. Do not write while driving.
        </Body>
      </Stack>
    </View>
  );
}

/** Who can be addressed by call: not the nodes of a mesh, which have numbers. */
const heardByCall = (stations: readonly StationView[]): string[] =>
  stations.map(({ call }) => call).filter((call) => parseStationCall(call).ok);

/** Length and cost in one line. */
export function lengthWords(octets: number, airTimeS: number | null, channelTimeS: number | null, parts = 1): string {
  const length = parts > 1 ? `${octets} characters in ${parts} texts` : `${octets} of ${MAX_MESSAGE_TEXT} characters`;
  if (airTimeS === null || channelTimeS === null) return length;
  const cost = `${airTimeS.toFixed(2)} s on the air`;
  return channelTimeS > airTimeS
    ? `${length} · ${cost}, ${channelTimeS.toFixed(1)} s of the channel if one repeats it at each hop`
    : `${length} · ${cost}`;
}

function AddresseeField({
  draft,
  heard,
  people,
  problem,
}: {
  draft: DraftView & { change: (change: DraftChange) => void };
  heard: readonly string[];
  people: readonly Person[];
  problem: string | null;
}) {
  const typed = draft.addressee.trim().toUpperCase();
  const named = (person: Person) =>
    [person.name, ...addressesOf(person, 'call')].some((word) => word.toUpperCase().startsWith(typed));
  const tactical = (useTacticalNames().data ?? []).filter(
    ({ until, name, call }) => until === null && call !== typed && name.toUpperCase().startsWith(typed),
  );
  const offers = heard.filter((call) => call !== typed && call.startsWith(typed)).slice(0, 6);
  return (
    <View>
      <Field
        label="To"
        mono
        value={draft.addressee}
        onChangeText={(addressee) => draft.change({ addressee: addressee.toUpperCase(), answers: null })}
        autoCapitalize="characters"
        maxLength={12}
        error={problem ?? undefined}
        hint={
          draft.answers
            ? 'This answers the text you opened.'
            : 'A call sign with SSID, such as QT4LB-8, or the start of a name'
        }
      />
      <Offers
        label="By task"
        words={tactical.map(({ name }) => name).slice(0, 6)}
        choose={(name) => draft.change({ addressee: tactical.find((one) => one.name === name)!.call, answers: null })}
      />
      <Offers
        label="Heard lately"
        mono
        words={offers}
        choose={(addressee) => draft.change({ addressee, answers: null })}
      />
      <Offers
        label="People"
        words={reachedBy('call', people)
          .filter((person) => addressesOf(person, 'call')[0] !== typed && (typed === '' || named(person)))
          .map(({ name }) => name)
          .slice(0, 6)}
        choose={(name) =>
          draft.change({ addressee: addressesOf(personNamed(name, people)!, 'call')[0]!, answers: null })
        }
      />
    </View>
  );
}

import {
  locksOf,
  sendsPackets,
  transmitLocks,
  type NewPositionReport,
  type PositionNow,
  type Settings,
} from '@tombolo/contract';
import { writingRoutes } from '@tombolo/contract/routes/writing';
import {
  AMBIGUITIES,
  ambiguityKm,
  distanceInWords,
  MOST_POSITION_COMMENT_OCTETS,
  type Ambiguity,
  writtenForms,
} from '@tombolo/core';
import { useState } from 'react';
import { SendButton } from '../../../bearers/sending';
import { ask } from '../../../live/ask';
import { useDistanceUnit } from '../../../live/preferences';
import { useBearers, useChange, usePositionNow, useSettings } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { Stack } from '../../../ui/layout';
import { Notice, Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading, Mono } from '../../../ui/text';
import { planReport } from './plan';
import { ReceiverState } from './receiver-state';
import { SentPositions } from './sent-positions';
import { TypedPosition } from './typed-position';
import { usePaths } from './use-paths';
import { WhereFrom } from './where-from';
import { WrittenForms } from './written-forms';

/** Where this station is, and saying so once by radio. */
export function PositionPlace() {
  const settings = useSettings();
  const position = usePositionNow();
  const failed = [settings, position].find(({ isError }) => isError);
  return (
    <Page title="Position">
      <Body soft below={12}>
        Nobody learns from us where we are unless you send it, start a beacon, or allow answers to those who ask.
        Whether to publish a position is your choice: what was sent once may stay on the internet for good.
      </Body>
      {settings.isPending || position.isPending ? <Waiting what="where we are" /> : null}
      {failed?.error ? (
        <Trouble error={failed.error} retry={() => void Promise.all([settings.refetch(), position.refetch()])} />
      ) : null}
      {settings.data && position.data ? <OwnPosition settings={settings.data} now={position.data} /> : null}
      <Rule />
      <SentPositions />
    </Page>
  );
}

function OwnPosition({ settings, now }: { settings: Settings; now: PositionNow }) {
  const { position, receiver, source } = now;
  return (
    <>
      <Heading level={2}>Where we are</Heading>
      {receiver ? <ReceiverState receiver={receiver} /> : null}
      {position ? <WrittenForms forms={writtenForms(position)} /> : null}
      {!position && !receiver ? (
        <Notice title="It is not known where this station is">
          <Body>Without a position nothing can be sent, and no distance or bearing be told.</Body>
        </Notice>
      ) : null}
      {source.by === 'typed' ? <TypedPosition settings={settings} /> : null}
      <WhereFrom source={source} />
      {position ? (
        <>
          <Rule />
          <Report settings={{ ...settings, position }} />
        </>
      ) : null}
    </>
  );
}

function Report({ settings }: { settings: Settings }) {
  const unit = useDistanceUnit();
  const bearers = useBearers();
  const modems = bearers.data?.filter((bearer) => sendsPackets(bearer.config) && bearer.enabled) ?? [];
  const [bearerId, setBearer] = useState<string | null>(null);
  const modem =
    modems.find(({ id }) => id === bearerId) ?? modems.find(({ state }) => state.link === 'up') ?? modems[0];
  const [ambiguity, setAmbiguity] = useState<Ambiguity>(0);
  const [comment, setComment] = useState('');
  const [chosen, setPath] = useState<string | null>(null);
  const { paths, usual } = usePaths(modem);
  const path = (chosen ?? usual).split(',').filter(Boolean);
  const plan = planReport({ ambiguity, comment, path }, settings, modem);
  // The same until it is taken, however often the button is pressed; what is changed is another report.
  const [pressed, setPressed] = useState<{ id: string; what: string } | null>(null);
  const send = useChange(
    (body: NewPositionReport) => ask(writingRoutes.sendPosition, { body }),
    ['transmissions', 'bearers'],
  );
  const submit = () => {
    if (!modem) return;
    const what = JSON.stringify([modem.id, path, ambiguity, comment]);
    const id = pressed?.what === what ? pressed.id : crypto.randomUUID();
    // What was pressed stays chosen, though another path be proposed meanwhile: pressed again it is the same report.
    setPath(path.join(','));
    setPressed({ id, what });
    send.mutate({ id, bearerId: modem.id, path, ambiguity, comment }, { onSuccess: () => setPressed(null) });
  };
  return (
    <>
      <Heading level={2}>Say where we are</Heading>
      <Choice<string>
        label="How exactly"
        value={String(ambiguity)}
        onChange={(value) => setAmbiguity(AMBIGUITIES.find((one) => String(one) === value) ?? 0)}
        options={AMBIGUITIES.map((one) => ({
          id: String(one),
          title: one === 0 ? 'As it is' : `Only to about ${distanceInWords(ambiguityKm(one), unit)}`,
          hint:
            one === 0
              ? `Others see us to within about ${distanceInWords(ambiguityKm(0), unit)}.`
              : `${one === 1 ? 'The last digit is' : `The last ${one} digits are`} left blank: somewhere in an area so wide.`,
        }))}
      />
      <Field
        label="Comment"
        value={comment}
        onChangeText={setComment}
        error={plan.problem ?? undefined}
        hint={`${plan.octets} of ${MOST_POSITION_COMMENT_OCTETS} octets; who or what we are, or nothing`}
      />
      {modems.length > 1 ? (
        <Choice<string>
          label="Bearer"
          value={modem?.id ?? ''}
          onChange={setBearer}
          options={modems.map(({ id, name }) => ({ id, title: name }))}
        />
      ) : null}
      <Choice<string> label="Path" value={path.join(',')} onChange={setPath} options={paths} />
      {plan.info !== null ? (
        <Stack below={16} gap={4}>
          <Body bold>What goes out</Body>
          <Mono>{plan.info}</Mono>
          {plan.airTimeS !== null ? (
            <Body
              soft
            >{`${plan.airTimeS.toFixed(2)} s on the air${path.length > 0 ? ', and again at each digipeater' : ''}`}</Body>
          ) : null}
        </Stack>
      ) : null}
      {bearers.data && !modem ? (
        <Notice kind="alarm" title="No modem">
          <Body>No bearer that can transmit is set up.</Body>
          <Button title="Go to Bearers" kind="plain" href="/bearers" />
        </Notice>
      ) : null}
      <SendButton
        locks={modem ? locksOf(modem.config.kind, settings) : transmitLocks(settings)}
        settings={settings}
        title={plan.buttonWords}
        disabled={
          !modem
            ? 'There is no modem that could send it.'
            : plan.airTimeS === null
              ? 'Something above is not right yet.'
              : false
        }
        busy={send.isPending}
        error={send.error}
        onPress={submit}
      />
      {send.isSuccess ? <Body aria-live="polite">It is in the queue; what became of it stands below.</Body> : null}
    </>
  );
}

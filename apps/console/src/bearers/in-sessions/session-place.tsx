import type { BearerView, OfferView, SessionView } from '@tombolo/contract';
import { useTimeWords } from '../../live/preferences';
import LinearProgress from '@rneui/themed/dist/LinearProgress';
import { useState } from 'react';
import { View } from 'react-native';
import { useChange, useSettings } from '../../live/queries';
import { sessionApi, useOffers, useSessions } from '../../live/sessions';
import { transmitLocks } from '@tombolo/contract';
import { Button } from '../../ui/button';
import { CheckRow } from '../../ui/choice';
import { useNow } from '../../ui/clock';
import { Field } from '../../ui/field';
import { Icon } from '../../ui/icon';
import { Row, Stack } from '../../ui/layout';
import { useLook } from '../../ui/look';
import { Empty, Notice, Page, Rule, Trouble } from '../../ui/page';
import { octetsInWords } from '../../ui/quantity';
import { Body, Heading, Mono } from '../../ui/text';
import { TransmitQuestions } from '../transmit-questions';
import { aboutSeconds } from '../about';
import { Link } from '../../ui/link';
import { secondsLeft } from './time-left';
import { Scrolled } from '../../ui/scrolled';

/** Sessions with a board or a mail gateway. */
export function SessionPlace({ bearer, mail }: { bearer: BearerView; mail: boolean }) {
  const settings = useSettings();
  const sessions = useSessions(bearer.id);
  const offers = useOffers(bearer.id);
  const [take, setTake] = useState<readonly string[]>([]);
  const [remove, setRemove] = useState<readonly string[]>([]);
  const [leave, setLeave] = useState(true);
  const [takePrivate, setTakePrivate] = useState(true);
  const begin = useChange(sessionApi.beginSession, ['sessions', 'offers']);
  const end = useChange(sessionApi.endSession, ['sessions']);
  const running = sessions.data?.find((session) => session.endedAt === null);
  const last = sessions.data?.find((session) => session.endedAt !== null);
  const locked = settings.data !== undefined && transmitLocks(settings.data).length > 0;
  const held = locked
    ? 'The questions above hold the transmitter.'
    : !settings.data
      ? 'It is not known yet whether anything may go out.'
      : bearer.enabled
        ? false
        : 'This bearer is switched off, under Bearers.';
  const start = (kind: 'exchange' | 'terminal') =>
    begin.mutate(
      { bearerId: bearer.id, kind, leave, takePrivate, take: [...take], remove: [...remove] },
      {
        onSuccess: () => {
          setTake([]);
          setRemove([]);
        },
      },
    );
  const chosenS = (offers.data ?? [])
    .filter(({ key }) => take.includes(key))
    .reduce((sum, { expectedS }) => sum + expectedS, 0);
  return (
    <Page title={bearer.name}>
      <Body soft below={12}>
        {mail
          ? 'Mail goes out by SMTP and is fetched by POP3 over a connection with the gateway. It is in the clear: everybody can read it.'
          : 'A session leaves what waits, lists what is there and takes what you choose. Everybody on the channel can read it.'}
      </Body>
      {locked ? <TransmitQuestions settings={settings.data} /> : null}
      {running ? (
        <Progress session={running} end={() => end.mutate(running.id)} ending={end.isPending} />
      ) : (
        <View>
          <CheckRow
            label={bearer.queued === 0 ? 'Leave what waits (nothing waits now)' : `Leave what waits (${bearer.queued})`}
            checked={leave}
            onChange={setLeave}
          />
          {mail ? null : (
            <CheckRow
              label="Take private messages to me"
              checked={takePrivate}
              onChange={setTakePrivate}
              hint="Bulletins are taken when you choose them below."
            />
          )}
          <Row wrap gap={8} above={8}>
            <Button
              title={
                take.length > 0
                  ? `Connect and take ${take.length}, ${aboutSeconds(chosenS)}`
                  : 'Connect and see what is there'
              }
              icon="lan-connect"
              busy={begin.isPending}
              disabled={held}
              onPress={() => start('exchange')}
            />
            {mail ? null : (
              <Button
                title="Plain terminal"
                kind="plain"
                disabled={begin.isPending ? 'A session is being opened.' : held}
                onPress={() => start('terminal')}
              />
            )}
          </Row>
        </View>
      )}
      {begin.isError ? (
        <Notice kind="alarm" title="No session">
          {begin.error.message}
        </Notice>
      ) : null}
      {!running && last ? <LastSession session={last} /> : null}

      <Rule />
      <Heading level={2}>What lies there</Heading>
      {offers.isError ? <Trouble error={offers.error} retry={() => void offers.refetch()} /> : null}
      {offers.data?.length === 0 ? (
        <Empty icon={mail ? 'email-outline' : 'bulletin-board'} title="Not asked yet">
          The first session lists what is there, with size and time. Then you choose, and connect again.
        </Empty>
      ) : null}
      <View role="list" aria-label="What lies there">
        {offers.data
          ?.filter(({ gone, itemId }) => !gone || itemId !== null)
          .map((offer) => (
            <OfferRow
              key={offer.key}
              offer={offer}
              taken={take.includes(offer.key)}
              removed={remove.includes(offer.key)}
              toggle={() => setTake(toggled(take, offer.key))}
              toggleRemove={mail ? () => setRemove(toggled(remove, offer.key)) : undefined}
            />
          ))}
      </View>
    </Page>
  );
}

const toggled = (keys: readonly string[], key: string): string[] =>
  keys.includes(key) ? keys.filter((other) => other !== key) : [...keys, key];

function OfferRow({
  offer,
  taken,
  removed,
  toggle,
  toggleRemove,
}: {
  offer: OfferView;
  taken: boolean;
  removed: boolean;
  toggle: () => void;
  toggleRemove?: () => void;
}) {
  const timeWords = useTimeWords();
  const look = useLook();
  const { itemId } = offer;
  return (
    <Stack role="listitem" padY={8} ruled>
      <Row gap={8} align="baseline">
        <Icon
          name={
            offer.kind === 'bulletin' ? 'bullhorn-outline' : offer.kind === 'mail' ? 'email-outline' : 'account-outline'
          }
          size={18}
          color={look.inkSoft}
        />
        <Body bold fill>
          {offer.subject || '(no subject)'}
        </Body>
        <Mono soft size={14}>{`no. ${offer.number}`}</Mono>
      </Row>
      <Body soft>
        {`${offer.from} to ${offer.to} · ${octetsInWords(offer.octets)}, ${aboutSeconds(offer.expectedS)}${offer.at ? ` · ${offer.at.includes('T') ? timeWords(offer.at) : `${offer.at}Z`}` : ''}`}
      </Body>
      {itemId !== null ? (
        <Link href={`/traffic/${itemId}`} minHeight={48} justify="center" self="start">
          <Body bold tone="tide">{`Taken: open “${offer.subject}”`}</Body>
        </Link>
      ) : (
        <Row gap={16}>
          <CheckRow label={`Take no. ${offer.number}`} checked={taken} onChange={toggle} />
          {toggleRemove && !taken ? (
            <CheckRow label={`Delete no. ${offer.number} unread`} checked={removed} onChange={toggleRemove} />
          ) : null}
        </Row>
      )}
    </Stack>
  );
}

function Progress({ session, end, ending }: { session: SessionView; end: () => void; ending: boolean }) {
  const look = useLook();
  const [line, setLine] = useState('');
  const type = useChange((text: string) => sessionApi.typeLine(session.id, text), ['sessions']);
  const now = useNow(1000);
  const here = { stage: session.stage, octets: session.doneOctets, atMs: now };
  const [begun, setBegun] = useState(here);
  if (begun.stage !== session.stage) setBegun(here);
  const left = secondsLeft(begun, session, now);
  const share = session.totalOctets > 0 ? session.doneOctets / session.totalOctets : null;
  return (
    <Stack gap={8}>
      <View role="status" aria-live="polite">
        <Body bold>{session.stage}</Body>
      </View>
      {share !== null ? (
        <Body soft>
          {`${session.doneOctets} of ${session.totalOctets} octets${left === null ? '' : `, ${aboutSeconds(left)} left`}`}
        </Body>
      ) : null}
      <LinearProgress
        aria-label="Progress of the session"
        value={share ?? 0}
        variant={share === null ? 'indeterminate' : 'determinate'}
        color={look.sand}
        trackColor={look.rule}
      />
      {session.kind === 'terminal' ? (
        <View>
          <SessionRecord text={session.record} />
          <Field label="Line to send" mono value={line} onChangeText={setLine} maxLength={250} />
          <Button
            title="Send the line"
            busy={type.isPending}
            onPress={() => type.mutate(line, { onSuccess: () => setLine('') })}
          />
        </View>
      ) : null}
      <Stack align="start">
        <Button title="Hang up" kind="plain" busy={ending} onPress={end} />
      </Stack>
    </Stack>
  );
}

function LastSession({ session }: { session: SessionView }) {
  const timeWords = useTimeWords();
  const [open, setOpen] = useState(false);
  return (
    <Stack above={16}>
      <Notice
        kind={session.problem ? 'alarm' : 'note'}
        title={`Last session ${timeWords(session.startedAt)}: ${session.stage}`}
      >
        {session.problem ? <Body>{session.problem}</Body> : null}
        <Stack align="start">
          <Button
            title={open ? 'Hide what was said' : 'Show what was said'}
            kind="plain"
            onPress={() => setOpen(!open)}
          />
        </Stack>
        {open ? <SessionRecord text={session.record} /> : null}
      </Notice>
    </Stack>
  );
}

/** What went to and fro; `>` marks our lines. */
function SessionRecord({ text }: { text: string }) {
  return (
    <Scrolled label="What was said" maxHeight={320}>
      <Mono size={14} line={20} selectable>
        {text || 'Nothing yet.'}
      </Mono>
    </Scrolled>
  );
}

import type { BearerView } from '@tombolo/contract';
import { router } from 'expo-router';
import { View } from 'react-native';
import { api } from '../../live/api';
import { useBearers, useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { CheckRow } from '../../ui/choice';
import { useNow } from '../../ui/clock';
import { Icon, type IconName } from '../../ui/icon';
import { useLook } from '../../ui/look';
import { Notice } from '../../ui/page';
import { Body, Heading, Mono } from '../../ui/text';
import { age, utcTime } from '../../ui/time';

const STATE: Record<BearerView['state']['link'], { icon: IconName; words: string }> = {
  up: { icon: 'check-circle-outline', words: 'Up' },
  connecting: { icon: 'dots-horizontal-circle-outline', words: 'Connecting' },
  down: { icon: 'close-circle-outline', words: 'Down' },
  off: { icon: 'minus-circle-outline', words: 'Switched off' },
};

const KIND_WORDS: Record<BearerView['config']['kind'], string> = {
  'kiss-tcp': 'Modem, KISS over TCP, ',
  'line-feed': 'Feed of text lines, ',
  board: 'Bulletin board ',
  'radio-mail': 'Mail gateway ',
  'mesh-mqtt': 'Mesh, by its node over MQTT, ',
};

/** Where a link leads, in one piece. */
function whereOf(config: BearerView['config']): string {
  switch (config.kind) {
    case 'board':
    case 'radio-mail':
      return [config.call, ...(config.path.length > 0 ? [`via ${config.path.join(', ')}`] : [])].join(' ');
    default:
      return `${config.host}:${config.port}`;
  }
}

/** Above this share of the channel, collisions grow fast (pure ALOHA peaks at 18 %). */
const HIGH_LOAD = 0.15;

/** Up or down and why, in one sentence. */
export function stateWords({ state }: BearerView, now: number): string {
  const { words } = STATE[state.link];
  const since = `since ${utcTime(state.since, now)}`;
  if (state.link !== 'down') return `${words} ${since}`;
  const next = state.nextTryAt
    ? `; tried again ${Date.parse(state.nextTryAt) > now ? `at ${utcTime(state.nextTryAt, now)}` : 'now'}`
    : '';
  return `${words} ${since}: ${state.reason ?? 'not connected'}${next}`;
}

export function BearerCard({ bearer }: { bearer: BearerView }) {
  const look = useLook();
  const now = useNow();
  const change = useChange((enabled: boolean) => api.switchBearer(bearer.id, enabled), ['bearers']);
  const remove = useChange(() => api.removeBearer(bearer.id), ['bearers']);
  const { state, config } = bearer;
  const called = config.kind === 'board' || config.kind === 'radio-mail';
  const hears = !called;
  const colour = state.link === 'up' ? look.tide : state.link === 'down' ? look.alarm : look.inkSoft;
  return (
    <View style={{ paddingVertical: 14, borderBottomWidth: 1, borderBottomColor: look.rule, gap: 4 }}>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 10 }}>
        <Icon name={STATE[state.link].icon} color={colour} />
        <Heading level={2} style={{ flex: 1 }}>
          {bearer.name}
        </Heading>
      </View>
      <Body style={{ color: colour }}>{called ? 'Called in sessions, over the modem' : stateWords(bearer, now)}</Body>
      <Body soft>
        {KIND_WORDS[config.kind]}
        <Mono soft>{whereOf(config)}</Mono>
      </Body>
      {config.kind === 'line-feed' ? <FeedAnswers bearer={bearer} /> : null}
      {config.kind === 'kiss-tcp' && config.confirms ? (
        <Body soft>It confirms each frame that it has sent.</Body>
      ) : null}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 20, marginVertical: 4 }}>
        {hears ? (
          <>
            <Figure name="Last heard" value={bearer.lastHeardAt ? `${age(bearer.lastHeardAt, now)} ago` : 'never'} />
            <Figure name="Heard in the last hour" value={String(bearer.heardLastHour)} />
          </>
        ) : null}
        {config.kind !== 'line-feed' ? <Figure name="Waiting to go out" value={String(bearer.queued)} /> : null}
        {bearer.load !== null ? (
          <Figure name="Channel load, 10 min" value={`${(bearer.load * 100).toFixed(1)} %`} />
        ) : null}
        {bearer.duty ? (
          <Figure
            name={`On the air, 1 h, ${bearer.duty.subBand}`}
            value={`${(bearer.duty.usedMs / 1000).toFixed(1)}${bearer.duty.mostMs === null ? '' : ` of ${(bearer.duty.mostMs / 1000).toFixed(1)}`} s`}
          />
        ) : null}
        {bearer.automatic ? (
          <Figure
            name="Answers by itself, 10 min"
            value={`${(bearer.automatic.spentMs / 1000).toFixed(1)} of ${bearer.automatic.mostMs / 1000} s`}
          />
        ) : null}
      </View>
      {bearer.load !== null && bearer.load > HIGH_LOAD ? (
        <Notice title="The channel is crowded">
          Packets begin to destroy each other. Keep texts short and wait between tries.
        </Notice>
      ) : null}
      {bearer.automatic && bearer.automatic.leftOut > 0 ? (
        <Notice title={`${bearer.automatic.leftOut} answers left out in the last day`}>
          Acknowledgements, rejections and refusals that were due and not sent: there was no air time for them, or it
          came too late.
        </Notice>
      ) : null}
      {change.isError || remove.isError ? (
        <Notice kind="alarm" title="That did not work">
          {(change.error ?? remove.error)!.message}
        </Notice>
      ) : null}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
        {called || config.kind === 'mesh-mqtt' ? (
          <Button
            title={called ? 'Open sessions' : 'Open nodes and channels'}
            about={bearer.name}
            onPress={() => router.navigate(`/links/${bearer.id}`)}
          />
        ) : null}
        <Button
          title={bearer.enabled ? 'Switch off' : 'Switch on'}
          about={bearer.name}
          kind="plain"
          busy={change.isPending}
          onPress={() => change.mutate(!bearer.enabled)}
        />
        {bearer.enabled ? null : (
          <Button
            title="Remove"
            about={bearer.name}
            kind="alarm"
            busy={remove.isPending}
            onPress={() => remove.mutate(undefined)}
          />
        )}
      </View>
    </View>
  );
}

/** A feed alone never keys the radio: the operator says so, by naming the modem that answers for it. */
function FeedAnswers({ bearer }: { bearer: BearerView }) {
  const bearers = useBearers();
  const { config } = bearer;
  const modem = bearers.data?.find((other) => other.config.kind === 'kiss-tcp');
  const change = useChange(
    (answerOver: string | null) => api.changeBearer(bearer.id, { ...config, answerOver } as BearerView['config']),
    ['bearers'],
  );
  if (config.kind !== 'line-feed') return null;
  const over = bearers.data?.find(({ id }) => id === config.answerOver);
  return (
    <>
      <Body soft>
        {config.answerOver
          ? `What it brings is answered by radio, over ${over?.name ?? 'a modem that is not there any more'}.`
          : 'Only listened to: what it brings is never answered by radio.'}
      </Body>
      {modem ? (
        <CheckRow
          label={`Answer what it brings over ${modem.name}`}
          hint="Each text to you that it brings then keys the radio for an acknowledgement."
          checked={config.answerOver !== null && config.answerOver !== undefined}
          onChange={(wanted) => change.mutate(wanted ? modem.id : null)}
        />
      ) : null}
      {change.isError ? (
        <Notice kind="alarm" title="That did not work">
          {change.error.message}
        </Notice>
      ) : null}
    </>
  );
}

function Figure({ name, value }: { name: string; value: string }) {
  return (
    <View>
      <Body soft style={{ fontSize: 14, lineHeight: 20 }}>
        {name}
      </Body>
      <Mono>{value}</Mono>
    </View>
  );
}

import { bearerKind, inSessions, type BearerView } from '@tombolo/contract';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../../live/api';
import { consoleKind } from '../../bearers/registry';
import { STATE, stateWords } from '../../bearers/state';
import { useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { useNow } from '../../ui/clock';
import { Icon } from '../../ui/icon';
import { Row, Stack } from '../../ui/layout';
import { useLook } from '../../ui/look';
import { Notice } from '../../ui/page';
import { RemoveButton } from '../../ui/remove-button';
import { Body, Heading, Mono } from '../../ui/text';
import { age } from '../../ui/time';
import { ChangeBearer } from './change-bearer';

/** Above this share of the channel, collisions grow fast (pure ALOHA peaks at 18 %). */
const HIGH_LOAD = 0.15;

export function BearerCard({ bearer }: { bearer: BearerView }) {
  const look = useLook();
  const now = useNow();
  const change = useChange((enabled: boolean) => api.switchBearer(bearer.id, enabled), ['bearers']);
  const [changing, setChanging] = useState(false);
  const remove = useChange(() => api.removeBearer(bearer.id), ['bearers']);
  const { state, config } = bearer;
  const kind = bearerKind(config.kind);
  const { words, where, Details, inside } = consoleKind(config.kind);
  const called = inSessions(kind);
  const tone = state.link === 'up' ? 'tide' : state.link === 'down' ? 'alarm' : 'inkSoft';
  return (
    <Stack padY={14} ruled gap={4}>
      <Row align="center" gap={10}>
        <Icon name={STATE[state.link].icon} color={look[tone]} />
        <Heading level={2} fill>
          {bearer.name}
        </Heading>
      </Row>
      <Body tone={tone}>{called ? 'Called in sessions, over the modem' : stateWords(bearer, now)}</Body>
      <Body soft>
        {words}
        <Mono soft>{where(config)}</Mono>
      </Body>
      {Details ? <Details bearer={bearer} config={config} /> : null}
      <Row wrap gap={20} around={4}>
        {called ? null : (
          <>
            <Figure name="Last heard" value={bearer.lastHeardAt ? `${age(bearer.lastHeardAt, now)} ago` : 'never'} />
            <Figure name="Heard in the last hour" value={String(bearer.heardLastHour)} />
          </>
        )}
        {kind.sends !== 'nothing' ? <Figure name="Waiting to go out" value={String(bearer.queued)} /> : null}
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
            name="Automatic answers, 10 min"
            value={`${(bearer.automatic.spentMs / 1000).toFixed(1)} of ${bearer.automatic.mostMs / 1000} s`}
          />
        ) : null}
      </Row>
      {bearer.load !== null && bearer.load > HIGH_LOAD ? (
        <Notice title="The channel is crowded">
          Packets begin to destroy each other. Keep texts short and wait between tries.
        </Notice>
      ) : null}
      {bearer.automatic && bearer.automatic.leftOut > 0 ? (
        <Notice title={`${bearer.automatic.leftOut} answers not sent in the last day`}>
          Acknowledgements, rejections and refusals that were due and not sent: there was no air time for them, or it
          came too late.
        </Notice>
      ) : null}
      {change.isError || remove.isError ? (
        <Notice kind="alarm" title="That did not work">
          {(change.error ?? remove.error)!.message}
        </Notice>
      ) : null}
      <Row wrap gap={8}>
        {inside ? <Button title={inside.title} about={bearer.name} href={`/bearers/${bearer.id}`} /> : null}
        {changing ? null : <Button title="Change" about={bearer.name} kind="plain" onPress={() => setChanging(true)} />}
        <Button
          title={bearer.enabled ? 'Switch off' : 'Switch on'}
          about={bearer.name}
          kind="plain"
          busy={change.isPending}
          onPress={() => change.mutate(!bearer.enabled)}
        />
        {bearer.enabled ? null : (
          <RemoveButton about={bearer.name} busy={remove.isPending} onRemove={() => remove.mutate(undefined)} />
        )}
      </Row>
      {changing ? <ChangeBearer bearer={bearer} done={() => setChanging(false)} /> : null}
    </Stack>
  );
}

function Figure({ name, value }: { name: string; value: string }) {
  return (
    <View>
      <Body soft size={14} line={20}>
        {name}
      </Body>
      <Mono>{value}</Mono>
    </View>
  );
}

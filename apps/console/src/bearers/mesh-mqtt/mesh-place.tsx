import { counted, meshRadioWords, meshReachWords } from '@tombolo/core';
import type { BearerView, MeshNodeView } from '@tombolo/contract';
import { View } from 'react-native';
import { useDistanceUnit, useTimeWords } from '../../live/preferences';
import { useMeshNodes } from '../../live/sessions';
import { useNow } from '../../ui/clock';
import { Row, Stack } from '../../ui/layout';
import { Empty, Notice, Page, Rule, Trouble } from '../../ui/page';
import { Body, Heading, Mono } from '../../ui/text';
import { whereWords } from '../../ui/quantity';
import { age } from '../../ui/time';
import type { OfBearer } from '../kind';
import { stateWords } from '../state';
import { Channels } from './channels';
import { comparedAirS, hourWords, type MeshConfig } from './hour';
import { NodeSetting } from './node-setting';

/** A mesh from inside: its air time, who is there, the channels with their invitations, and how the own node is set. */
export default function MeshPlace({ bearer, config }: OfBearer<'mesh-mqtt'>) {
  const timeWords = useTimeWords();
  const nodes = useMeshNodes();
  const now = useNow();
  const here = nodes.data?.filter((node) => node.bearerId === bearer.id) ?? [];
  return (
    <Page title={bearer.name}>
      <Body>{stateWords(bearer, now)}</Body>
      <Body below={12}>
        Own node <Mono bold>{config.tag}</Mono>
        {`, ${config.name}, ${config.carrier ? 'a carrier' : 'a terminal'}, number `}
        <Mono>{config.node}</Mono>
      </Body>
      <OnTheAir bearer={bearer} config={config} />
      <Rule />
      <Heading level={2}>Nodes</Heading>
      {nodes.isError ? <Trouble error={nodes.error} retry={() => void nodes.refetch()} /> : null}
      {nodes.data && here.length === 0 ? (
        <Empty icon="access-point" title="Nobody heard yet">
          {`Nodes announce themselves every ${config.announceMin} min or so: the first ones are expected by ${timeWords(new Date(Date.parse(bearer.state.since) + config.announceMin * 60_000).toISOString(), now)}. A text to everybody brings others out sooner.`}
        </Empty>
      ) : null}
      <View role="list" aria-label="Nodes">
        {here.map((node) => (
          <NodeRow key={node.node} node={node} now={now} />
        ))}
      </View>
      <Rule />
      <Channels bearer={bearer} channels={config.channels} />
      <Rule />
      <NodeSetting bearer={bearer} config={config} nodes={here.length + 1} />
    </Page>
  );
}

/** Where the mesh works, what a text costs there, and what is left of the hour. */
function OnTheAir({ bearer, config }: { bearer: BearerView; config: MeshConfig }) {
  const { radio } = config;
  if (!radio)
    return (
      <Notice kind="alarm" title="No frequency is set">
        Nothing is sent before the frequency and the modem setting are set below: those of your group, where your local
        rules allow it. Antenna before power: a node that transmits without one can destroy its output stage.
      </Notice>
    );
  return (
    <Stack gap={4}>
      <Heading level={2}>On the air</Heading>
      <Body>
        <Mono>{meshRadioWords(radio)}</Mono>
        {`: ${meshReachWords(radio)}`}
      </Body>
      <Body>{`A text of 50 octets is on the air for ${comparedAirS(radio, false)} s in the clear, ${comparedAirS(radio, true)} s sealed, and again at each node that repeats it.`}</Body>
      {bearer.duty ? (
        <>
          <Body bold>{hourWords(bearer.duty)}</Body>
          <Body
            soft
          >{`${bearer.duty.words}. What the node repeats for others and tells of itself is counted as it says. Your local rules come first.`}</Body>
        </>
      ) : null}
    </Stack>
  );
}

function NodeRow({ node, now }: { node: MeshNodeView; now: number }) {
  const unit = useDistanceUnit();
  const facts = [
    node.hops === null ? null : node.hops === 0 ? 'heard direct' : counted(node.hops, 'hop'),
    node.snrDb === null ? null : `SNR ${node.snrDb.toFixed(1)} dB`,
    node.batteryPercent === null ? null : `battery ${node.batteryPercent} %`,
    whereWords(node, unit),
  ].filter(Boolean);
  return (
    <Stack role="listitem" padY={8} ruled>
      <Row gap={8} align="baseline">
        <Mono bold>{node.tag}</Mono>
        <Body fill numberOfLines={1}>
          {[node.name, node.carrier ? 'carrier' : ''].filter(Boolean).join(', ')}
        </Body>
        <Mono soft size={14}>{`${age(node.lastAt, now)} ago`}</Mono>
      </Row>
      <Body soft>
        {node.tag === node.node ? null : <Mono soft size={14}>{`${node.node}  `}</Mono>}
        {facts.join(' · ') || 'nothing else told yet'}
      </Body>
    </Stack>
  );
}

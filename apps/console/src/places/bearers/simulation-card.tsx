import type { Simulation } from '@tombolo/contract';
import { View } from 'react-native';
import { api } from '../../live/api';
import { useChange, useSimulation } from '../../live/queries';
import { Button } from '../../ui/button';
import { Row } from '../../ui/layout';
import { Notice, Rule } from '../../ui/page';
import { Body, Heading } from '../../ui/text';

const SPEEDS: readonly Simulation['speed'][] = [1, 10, 60];

/** The simulated district, when one is attached: nothing leaves this machine. */
export function SimulationCard() {
  const simulation = useSimulation();
  const change = useChange(api.setSpeed, ['simulation']);
  if (!simulation.data) return null;
  return (
    <View>
      <Rule />
      <Heading level={2}>Simulated district</Heading>
      <Body soft>The radio channel of these bearers is a simulation on this machine. Nothing is transmitted.</Body>
      <Row role="group" aria-label="Speed of the simulation" gap={8} above={8}>
        {SPEEDS.map((speed) => (
          <Button
            key={speed}
            title={`${speed}×`}
            kind={simulation.data!.speed === speed ? 'main' : 'plain'}
            selected={simulation.data!.speed === speed}
            onPress={() => change.mutate(speed)}
          />
        ))}
      </Row>
      {change.isError ? (
        <Notice kind="alarm" title="The speed was not changed">
          {change.error.message}
        </Notice>
      ) : null}
    </View>
  );
}

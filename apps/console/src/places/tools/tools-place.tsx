import { View } from 'react-native';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';
import { LIGHTS, LIGHT_WORDS, type Light } from '../../ui/lights';
import { useLight } from '../../ui/look';
import { Page, Rule } from '../../ui/page';
import { Body, Heading } from '../../ui/text';

const CAUTIONS = [
  'Transmit only with a licence that covers it, and identify as your rules ask – in the United States at least every ten minutes and at the end (47 CFR 97.119).',
  'Nothing whose meaning is hidden goes out on amateur bands (47 CFR 97.113(a)(4) and most other rules).',
  'Texts for people without a licence are third-party traffic: you answer for them, and abroad it may need an agreement (47 CFR 97.115).',
  'Antenna before power: a transmitter without one can destroy its output stage.',
  'Keep masts and wires away from power lines, and yourself away from masts in a thunderstorm.',
  'Keep the distance to a transmitting antenna that the exposure rules of your country give.',
  'Do not write while driving.',
  'This program is no rescue service. Where a phone works, call the emergency number first.',
] as const;

export function ToolsPlace() {
  const { light, choose } = useLight();
  return (
    <Page title="Tools">
      <View style={{ gap: 8, alignItems: 'flex-start' }}>
        <Button title="Call for help" icon="alert-octagram-outline" href="/tools/emergency" kind="plain" />
        <Button title="Position" icon="map-marker-outline" href="/tools/position" kind="plain" />
        <Button title="Beacon" icon="access-point" href="/tools/beacon" kind="plain" />
        <Button title="Things on the map" icon="map-marker-outline" href="/tools/objects" kind="plain" />
        <Button title="Positions out" icon="map-marker-radius-outline" href="/tools/positions-out" kind="plain" />
        <Button title="Repeating" icon="transit-connection-variant" href="/tools/repeating" kind="plain" />
        <Button title="Ready check" icon="check-circle-outline" href="/tools/ready" kind="plain" />
        <Button title="Equipment" icon="radio-handheld" href="/tools/equipment" kind="plain" />
        <Button title="Serial lines" icon="lan-connect" href="/tools/serial" kind="plain" />
        <Button title="First steps" icon="walk" href="/start" kind="plain" />
        <Button title="Settings" icon="tune" href="/tools/settings" kind="plain" />
        <Button title="People" icon="account-outline" href="/tools/people" kind="plain" />
        <Button title="Standing rules" icon="transfer-right" href="/tools/rules" kind="plain" />
        <Button title="Backup" icon="archive-lock-outline" href="/tools/backup" kind="plain" />
      </View>
      <Rule />
      <Choice<Light>
        label="Light"
        value={light}
        onChange={choose}
        options={LIGHTS.map((id) => ({ id, title: LIGHT_WORDS[id] }))}
      />
      <Rule />
      <Heading level={2}>Cautions</Heading>
      <Body soft style={{ marginBottom: 8 }}>
        Your licence, your local rules and your agency’s plan come first.
      </Body>
      <View role="list">
        {CAUTIONS.map((caution) => (
          <View key={caution} role="listitem" style={{ flexDirection: 'row', gap: 8, marginBottom: 8 }}>
            <Body soft>–</Body>
            <Body style={{ flex: 1 }}>{caution}</Body>
          </View>
        ))}
      </View>
    </Page>
  );
}

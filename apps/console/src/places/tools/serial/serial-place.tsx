import { useState } from 'react';
import { Button } from '../../../ui/button';
import { Field } from '../../../ui/field';
import { Stack } from '../../../ui/layout';
import { Empty, Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { usePorts } from './at-station';
import { PortList } from './port-list';
import { SpeedFinder } from './speed-finder';

/** Which device it is that was plugged in, and at which speed it talks. */
export function SerialPlace() {
  const ports = usePorts();
  /** What was there when somebody began to look; null while nobody looks. */
  const [before, setBefore] = useState<readonly string[] | null>(null);
  const [device, setDevice] = useState('');
  return (
    <Page title="Serial lines">
      <Body soft below={12}>
        Modems and position receivers on a cable, or on a wireless link that looks like one. Pull the plug, press the
        button, plug it in again: the device that appears is yours.
      </Body>
      {ports.isPending ? <Waiting what="serial devices" /> : null}
      {ports.isError ? <Trouble error={ports.error} retry={() => void ports.refetch()} /> : null}
      {ports.data ? (
        <>
          <Stack align="start" below={8}>
            <Button
              title={before ? 'Begin again' : 'It is unplugged: look for it'}
              kind={before ? 'plain' : 'main'}
              onPress={() => setBefore(ports.data.map((port) => port.device))}
            />
          </Stack>
          {ports.data.length === 0 ? (
            <Empty icon="lan-connect" title="No serial device">
              None is there now. What is plugged in appears here within a second.
            </Empty>
          ) : null}
          <PortList ports={ports.data} before={before} choose={setDevice} />
        </>
      ) : null}
      <Rule />
      <Heading level={2}>Find its speed</Heading>
      <Body soft below={8}>
        It is only listened to, at one speed after the other; nothing is sent. A modem says something when its radio
        hears somebody.
      </Body>
      <Field
        label="Device"
        hint="Choose one above, or type its name"
        mono
        autoCapitalize="none"
        value={device}
        onChangeText={setDevice}
      />
      <SpeedFinder key={device} device={device.trim()} />
    </Page>
  );
}

import { View } from 'react-native';
import { Button } from '../../../ui/button';
import { Row, Stack } from '../../../ui/layout';
import { Body, Mono } from '../../../ui/text';

interface PortListProps {
  ports: readonly { readonly device: string; readonly builtIn: boolean }[];
  /** What was there when somebody began to look; null while nobody looks. */
  before: readonly string[] | null;
  choose: (device: string) => void;
}

/** Serial devices, those that appeared first. */
export function PortList({ ports, before, choose }: PortListProps) {
  const appeared = before ? ports.filter(({ device }) => !before.includes(device)) : [];
  const gone = before?.filter((device) => !ports.some((port) => port.device === device)) ?? [];
  const rest = ports.filter((port) => !appeared.includes(port));
  return (
    <View>
      <View aria-live="polite">
        {before && appeared.length === 0 ? <Body>Plug it in now.</Body> : null}
        {appeared.map(({ device }) => (
          <Body key={device} bold>{`${device} appeared: it is this one.`}</Body>
        ))}
        {gone.map((device) => (
          <Body key={device} soft>{`${device} is gone.`}</Body>
        ))}
      </View>
      <View role="list" aria-label="Serial devices">
        {[...appeared, ...rest].map(({ device, builtIn }) => (
          <Row key={device} role="listitem" wrap gap={8} align="center" padY={4} ruled>
            <Stack grow={1} shrink={1} basis={200}>
              <Mono>{device}</Mono>
              {builtIn ? <Body soft>Part of the machine: there whether anything is plugged in or not</Body> : null}
            </Stack>
            <Button title="Choose" about={device} kind="plain" onPress={() => choose(device)} />
          </Row>
        ))}
      </View>
    </View>
  );
}

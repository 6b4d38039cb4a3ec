import { View } from 'react-native';
import { Button } from '../../../ui/button';
import { useLook } from '../../../ui/look';
import { Body, Mono } from '../../../ui/text';

interface PortListProps {
  ports: readonly { readonly device: string; readonly builtIn: boolean }[];
  /** What was there when somebody began to look; null while nobody looks. */
  before: readonly string[] | null;
  choose: (device: string) => void;
}

/** Serial devices, those that appeared first. */
export function PortList({ ports, before, choose }: PortListProps) {
  const look = useLook();
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
          <View
            key={device}
            role="listitem"
            style={{
              flexDirection: 'row',
              flexWrap: 'wrap',
              gap: 8,
              alignItems: 'center',
              paddingVertical: 4,
              borderBottomWidth: 1,
              borderBottomColor: look.rule,
            }}
          >
            <View style={{ flexGrow: 1, flexShrink: 1, flexBasis: 200 }}>
              <Mono>{device}</Mono>
              {builtIn ? <Body soft>Part of the machine: there whether anything is plugged in or not</Body> : null}
            </View>
            <Button title="Choose" about={device} kind="plain" onPress={() => choose(device)} />
          </View>
        ))}
      </View>
    </View>
  );
}

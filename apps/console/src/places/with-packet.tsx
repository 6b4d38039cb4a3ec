import { router, useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { useLook, useWide } from '../ui/look';
import { PacketPanel } from './packet/packet-panel';

/** A place that opens packets: beside itself on a wide screen, as a page on a phone. */
export function WithPacket({ children }: { children: (openPacket: (id: string) => void) => ReactNode }) {
  const wide = useWide();
  const look = useLook();
  const { packet } = useLocalSearchParams<{ packet?: string }>();
  const openPacket = (id: string) => (wide ? router.setParams({ packet: id }) : router.navigate(`/packet/${id}`));
  if (!wide) return <>{children(openPacket)}</>;
  return (
    <View style={{ flex: 1, flexDirection: 'row', minHeight: 0 }}>
      <View style={{ flex: 1.2, minWidth: 0 }}>{children(openPacket)}</View>
      <View style={{ flex: 1, minWidth: 0, borderLeftWidth: 1, borderLeftColor: look.rule }}>
        {packet ? <PacketPanel key={packet} id={packet} /> : null}
      </View>
    </View>
  );
}

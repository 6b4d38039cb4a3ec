import { router, useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { useWide } from '../ui/look';
import { Button } from '../ui/button';
import { Row, Stack } from '../ui/layout';
import { Body } from '../ui/text';
import { PacketPanel } from './packet/packet-panel';

/** A place that opens packets: beside itself on a wide screen, as a page on a phone. */
export function WithPacket({
  children,
  beside,
}: {
  children: (openPacket: (id: string) => void) => ReactNode;
  /** What stands beside the place on a wide screen while no packet is open. */
  beside?: (openPacket: (id: string) => void) => ReactNode;
}) {
  const wide = useWide();
  const { packet } = useLocalSearchParams<{ packet?: string }>();
  const openPacket = (id: string) => (wide ? router.setParams({ packet: id }) : router.navigate(`/packet/${id}`));
  if (!wide) return <>{children(openPacket)}</>;
  return (
    <Row fill minHeight={0}>
      <Stack share={1.2} minWidth={0}>
        {children(openPacket)}
      </Stack>
      <Stack fill minWidth={0} ruledLeft>
        {packet ? (
          <>
            <Stack padTop={12} padX={16} align="start">
              <Button title="Close the packet" kind="plain" onPress={() => router.setParams({ packet: undefined })} />
            </Stack>
            <PacketPanel key={packet} id={packet} />
          </>
        ) : (
          (beside?.(openPacket) ?? (
            <Stack pad={32}>
              <Body soft>Choose a packet to see how it was heard and what each octet says.</Body>
            </Stack>
          ))
        )}
      </Stack>
    </Row>
  );
}

import type { ReactNode } from 'react';
import { Modal, ScrollView, View } from 'react-native';
import { Button } from './button';
import { useLook } from './look';
import { Heading } from './text';

interface OverlayProps {
  title: string;
  close: () => void;
  children: ReactNode;
}

/** Something for a moment, over the page, which stays as it is. The focus stays inside and goes back to where it was; Escape closes it. */
export function Overlay({ title, close, children }: OverlayProps) {
  const look = useLook();
  return (
    <Modal visible transparent onRequestClose={close} aria-label={title}>
      <View
        style={{
          flex: 1,
          alignItems: 'center',
          justifyContent: 'center',
          padding: 16,
          backgroundColor: `${look.paper}d9`,
        }}
      >
        <ScrollView
          style={{
            flexGrow: 0,
            width: '100%',
            maxWidth: 480,
            backgroundColor: look.paper,
            borderRadius: 4,
            borderWidth: 1,
            borderColor: look.rule,
          }}
          contentContainerStyle={{ padding: 16, gap: 12 }}
        >
          <Heading level={2}>{title}</Heading>
          {children}
          <View style={{ alignItems: 'flex-start' }}>
            <Button title="Close" kind="plain" onPress={close} />
          </View>
        </ScrollView>
      </View>
    </Modal>
  );
}

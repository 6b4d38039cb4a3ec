import type { ReactNode } from 'react';
import { View } from 'react-native';
import { Icon, type IconName } from './icon';
import { Row, Stack } from './layout';
import { useLook } from './look';

interface BannerProps {
  icon: IconName;
  /** How strongly it is set off from the place below, px: 4 where somebody calls for help. */
  edge?: 1 | 2 | 4;
  /** What it says. */
  children: ReactNode;
  /** What can be done about it. */
  actions?: ReactNode;
}

/** Above the place that is open, as wide as the screen: what nobody may overlook. */
export function Banner({ icon, edge = 2, children, actions }: BannerProps) {
  const look = useLook();
  return (
    <View
      role="alert"
      style={{
        padding: 10,
        gap: 6,
        borderBottomWidth: edge,
        borderBottomColor: look.alarm,
        backgroundColor: look.leaf,
      }}
    >
      <Row gap={8} align="start">
        <Icon name={icon} color={look.alarm} />
        <Stack fill>{children}</Stack>
      </Row>
      {actions}
    </View>
  );
}

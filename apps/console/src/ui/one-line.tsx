import type { ReactNode } from 'react';
import { ScrollView, type ScrollViewProps } from 'react-native';

/** Pieces beside each other in one line that scrolls, where height is scarce. */
export const OneLine = ({
  children,
  ...more
}: { children: ReactNode } & Omit<ScrollViewProps, 'style' | 'horizontal'>) => (
  <ScrollView {...more} horizontal showsHorizontalScrollIndicator={false} style={{ flexGrow: 0 }}>
    {children}
  </ScrollView>
);

import type { ReactNode } from 'react';
import { View } from 'react-native';

/** For the screen alone: what is filled in or pressed has no place on paper. */
export const NotOnPaper = ({ children }: { children: ReactNode }) => (
  <View {...({ dataSet: { paper: 'no' } } as object)}>{children}</View>
);

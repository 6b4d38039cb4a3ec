import { useState, type ReactNode } from 'react';
import { View } from 'react-native';

/** Gives its children the width that there is, px; nothing before it is known. */
export function Measured({ children, initial = 0 }: { children: (width: number) => ReactNode; initial?: number }) {
  const [width, setWidth] = useState(initial);
  return (
    <View onLayout={(event) => setWidth(Math.floor(event.nativeEvent.layout.width))}>
      {width > 0 ? children(width) : null}
    </View>
  );
}

import { View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import { ICON_PATHS, type IconName } from './icon-paths';
import { useLook } from './look';

export type { IconName } from './icon-paths';

/** An icon beside words: it says nothing by itself, so it is hidden from screen readers. */
export function Icon({ name, size = 22, color }: { name: IconName; size?: number; color?: string }) {
  const look = useLook();
  return (
    <View aria-hidden style={{ width: size, height: size }}>
      <Svg width={size} height={size} viewBox="0 0 24 24">
        <Path d={ICON_PATHS[name]} fill={color ?? look.ink} />
      </Svg>
    </View>
  );
}

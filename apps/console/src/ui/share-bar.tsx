import { View } from 'react-native';
import { useLook } from './look';

/** A share of all, 0 to 1, as a bar; a stroke where it was before. For the eye: the words stand beside it. */
export function ShareBar({ share, before }: { share: number; before: number | null }) {
  const look = useLook();
  return (
    <View aria-hidden style={{ height: 8, marginTop: 4, backgroundColor: look.rule, borderRadius: 2 }}>
      <View style={{ height: 8, width: `${100 * share}%`, backgroundColor: look.sand, borderRadius: 2 }} />
      {before !== null ? (
        <View
          style={{
            position: 'absolute',
            left: `${Math.min(99, 100 * before)}%`,
            top: -3,
            width: 2,
            height: 14,
            backgroundColor: look.ink,
          }}
        />
      ) : null}
    </View>
  );
}

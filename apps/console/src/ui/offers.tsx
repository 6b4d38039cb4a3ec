import { Pressable, View } from 'react-native';
import { useLook } from './look';
import { Mono } from './text';

/** What could be entered in the field above it, one press each. */
export function Offers({
  label,
  words,
  choose,
}: {
  label: string;
  words: readonly string[];
  choose: (word: string) => void;
}) {
  const look = useLook();
  if (words.length === 0) return null;
  return (
    <View
      role="group"
      aria-label={label}
      style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8, marginTop: -8, marginBottom: 16 }}
    >
      {words.map((word) => (
        <Pressable
          key={word}
          role="button"
          aria-label={`To ${word}`}
          onPress={() => choose(word)}
          style={{
            minHeight: 48,
            paddingHorizontal: 12,
            justifyContent: 'center',
            borderWidth: 1,
            borderColor: look.rule,
            borderRadius: 4,
          }}
        >
          <Mono style={{ color: look.tide }}>{word}</Mono>
        </Pressable>
      ))}
    </View>
  );
}

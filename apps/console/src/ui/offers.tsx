import { Pressable, View } from 'react-native';
import { useLook } from './look';
import { Body, Mono } from './text';

/** What could be entered in the field above it, one press each. */
export function Offers({
  label,
  words,
  mono = false,
  verb = 'To',
  choose,
}: {
  label: string;
  words: readonly string[];
  /** For calls and the like. */
  mono?: boolean;
  /** In front of the word, for who hears the buttons. */
  verb?: 'To' | 'For';
  choose: (word: string) => void;
}) {
  const look = useLook();
  const Word = mono ? Mono : Body;
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
          aria-label={`${verb} ${word}`}
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
          <Word tone="tide">{word}</Word>
        </Pressable>
      ))}
    </View>
  );
}

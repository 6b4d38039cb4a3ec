import { ScrollView, View } from 'react-native';
import { Button } from './button';

interface ChipsProps<T extends string> {
  label: string;
  options: readonly { readonly id: T; readonly title: string }[];
  value: T;
  onChange: (value: T) => void;
  /** In one line that scrolls, where height is scarce. */
  line?: boolean;
}

/** One of a few, side by side. */
export function Chips<T extends string>({ label, options, value, onChange, line }: ChipsProps<T>) {
  const chips = options.map(({ id, title }) => (
    <Button key={id} title={title} kind="plain" selected={id === value} onPress={() => onChange(id)} />
  ));
  if (line)
    return (
      <ScrollView
        horizontal
        showsHorizontalScrollIndicator={false}
        role="group"
        aria-label={label}
        style={{ flexGrow: 0 }}
      >
        <View style={{ flexDirection: 'row', gap: 6 }}>{chips}</View>
      </ScrollView>
    );
  return (
    <View role="group" aria-label={label} style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
      {chips}
    </View>
  );
}

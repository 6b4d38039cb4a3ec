import { useState } from 'react';
import { View } from 'react-native';
import { create } from 'zustand';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Heading, Mono } from '../../ui/text';

/** What is looked for in Traffic; it stays while items are opened and closed again. */
export const useTrafficSearch = create<{ text: string; look: (text: string) => void }>()((set) => ({
  text: '',
  look: (text) => set({ text }),
}));

/** The heading with the own station, and the search that opens below it. */
export function TrafficHead({ own }: { own: string | null }) {
  const { text, look } = useTrafficSearch();
  const [open, setOpen] = useState(text !== '');
  return (
    <View>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 12 }}>
        <Heading level={1}>Traffic</Heading>
        <View style={{ flex: 1 }} />
        {own ? (
          <Mono soft aria-label="Own station">
            {own}
          </Mono>
        ) : null}
        <Button
          title={open ? 'Close' : 'Search'}
          about={open ? 'the search' : 'Traffic'}
          icon="magnify"
          kind="plain"
          onPress={() => {
            setOpen(!open);
            look('');
          }}
        />
      </View>
      {open ? (
        <View style={{ marginTop: 8 }}>
          <Field
            label="Search"
            value={text}
            onChangeText={look}
            hint="Call sign or words of the text, filed ones too"
            autoFocus
          />
        </View>
      ) : null}
    </View>
  );
}

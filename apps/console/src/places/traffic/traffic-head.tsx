import { useState } from 'react';
import { View } from 'react-native';
import { create } from 'zustand';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Row, Stack } from '../../ui/layout';
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
      <Row align="center" gap={12}>
        <Heading level={1}>Traffic</Heading>
        <Stack fill />
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
      </Row>
      {open ? (
        <Stack above={8}>
          <Field
            label="Search"
            value={text}
            onChangeText={look}
            hint="Call sign or words of the text, filed ones too"
            autoFocus
          />
        </Stack>
      ) : null}
    </View>
  );
}

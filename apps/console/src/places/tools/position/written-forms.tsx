import { View } from 'react-native';
import { Body, Mono } from '../../../ui/text';

/** One point in every form. */
export const WrittenForms = ({ forms }: { forms: readonly { readonly name: string; readonly text: string }[] }) => (
  <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 24 }}>
    {forms.map(({ name, text }) => (
      <View key={name} style={{ paddingVertical: 6, minWidth: 260 }}>
        <Body soft>{name}</Body>
        <Mono selectable>{text}</Mono>
      </View>
    ))}
  </View>
);

import { Text } from 'react-native';

/** The frameworks with one line of text: nothing built on them can start sooner. */
export default function Bare() {
  return <Text role="heading">One line of text</Text>;
}

import type { ViewStyle } from 'react-native';

/** A list that scrolls takes what room there is; it knows no other way to be told. */
export const filling: ViewStyle = { flex: 1 };

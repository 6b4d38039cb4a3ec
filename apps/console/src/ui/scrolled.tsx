import type { ReactNode } from 'react';
import { ScrollView } from 'react-native';
import { useLook } from './look';

/** What is longer than its frame, which the keys can scroll. */
export function Scrolled({ label, maxHeight, children }: { label: string; maxHeight: number; children: ReactNode }) {
  const look = useLook();
  return (
    <ScrollView
      tabIndex={0}
      aria-label={label}
      style={{ maxHeight, borderWidth: 1, borderColor: look.rule, borderRadius: 4, padding: 8, marginVertical: 8 }}
    >
      {children}
    </ScrollView>
  );
}

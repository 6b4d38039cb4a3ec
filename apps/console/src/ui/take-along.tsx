import { useState } from 'react';
import { View } from 'react-native';
import { Button } from './button';
import { Body } from './text';

interface TakeAlongProps {
  /** What is copied or handed to another program, as plain text. */
  text: string;
  /** Which of several it is about: spoken after the title. */
  about: string;
  /** Also the page as it is, on paper. */
  print?: boolean;
}

const SAID = {
  copied: 'Copied.',
  refused: 'The browser does not let this page copy: mark the text and copy it by hand.',
} as const;

/** Ways to take something out of here: the clipboard, another program of the device, paper. */
export function TakeAlong({ text, about, print }: TakeAlongProps) {
  const [said, say] = useState<keyof typeof SAID | null>(null);
  const canShare = typeof navigator !== 'undefined' && typeof navigator.share === 'function';
  return (
    <View style={{ marginBottom: 8 }}>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
        <Button
          title="Copy"
          about={about}
          icon="content-copy"
          kind="plain"
          onPress={() => {
            // Without a secure context there is no clipboard.
            const done = navigator.clipboard?.writeText(text) ?? Promise.reject(new Error('no clipboard'));
            done.then(
              () => say('copied'),
              () => say('refused'),
            );
          }}
        />
        {canShare ? (
          <Button
            title="Share"
            about={about}
            icon="share-variant-outline"
            kind="plain"
            // Whoever closes the device's own list has changed their mind: that is no fault.
            onPress={() => void navigator.share({ text }).catch(() => undefined)}
          />
        ) : null}
        {print ? (
          <Button title="Print" about={about} icon="printer-outline" kind="plain" onPress={() => window.print()} />
        ) : null}
      </View>
      <View aria-live="polite">{said ? <Body soft>{SAID[said]}</Body> : null}</View>
    </View>
  );
}

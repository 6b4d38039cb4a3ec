import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { Icon } from './icon';
import { useLook } from './look';
import { Body } from './text';

/** The field's words, each in a line. */
export const TERMS = {
  digipeater: 'A station that hears a packet and sends it again, so that it reaches further.',
  path: 'The digipeaters a packet asks for. WIDE1-1 asks a nearby fill-in, WIDE2-1 a high one; each use takes channel time.',
  acknowledgement: 'The addressee’s own station says it has the text. Only this proves delivery by radio text.',
  copies: 'The same packet heard over several paths within 30 seconds. It is one packet.',
  SSID: 'A number from 0 to 15 behind the call sign that tells your stations apart. By habit −7 is a hand-held.',
  bearer: 'A way across: a radio modem, a feed, a mesh, a board.',
  precedence:
    'How urgent a text is: routine; welfare, about how people are; priority, with a time limit; emergency, life or great loss at stake.',
  evidence:
    'What was heard or answered, with the packet itself. The state of an item is computed from it and nothing else.',
  gateway: 'A station that passes packets between radio and internet.',
} as const;

export type Term = keyof typeof TERMS;

/** A word whose explanation opens on tap. */
export function TermHelp({ term }: { term: Term }) {
  const [open, setOpen] = useState(false);
  const look = useLook();
  return (
    <View>
      <Pressable
        role="button"
        aria-expanded={open}
        aria-label={`What is ${term}?`}
        onPress={() => setOpen(!open)}
        style={{ flexDirection: 'row', alignItems: 'center', gap: 6, minHeight: 48 }}
      >
        <Icon name="help-circle-outline" size={18} color={look.tide} />
        <Body tone="tide">{term}</Body>
      </Pressable>
      {open ? <Body soft>{TERMS[term]}</Body> : null}
    </View>
  );
}

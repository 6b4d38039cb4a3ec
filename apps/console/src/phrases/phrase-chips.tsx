import { fillPhrase, withPhrase } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { useDistanceUnit } from '../live/preferences';
import { useSettings, useStations } from '../live/queries';
import { Button } from '../ui/button';
import { Chips } from '../ui/chips';
import { Field } from '../ui/field';
import { Row, Stack } from '../ui/layout';
import { Link } from '../ui/link';
import { Body } from '../ui/text';
import { byUse, decksOf, phraseKnown, usePhraseUse } from './use-phrases';
import { Press } from '../ui/press';

/** Why a variable is not known, by its name. */
const NOT_KNOWN = {
  call: 'your call is not entered',
  locator: 'it is not known where this station is',
  position: 'it is not known where this station is',
  place: 'nothing with a name is near on the map',
  time: 'the time is not known',
  net: 'no deck is chosen',
  number: 'the number is missing',
} as const;

/** Phrases one press each, with what is known put in; the text can be cleared, and whom it is for stays. */
export function PhraseChips({ text, change }: { text: string; change: (text: string) => void }) {
  const settings = useSettings();
  const stations = useStations();
  const unit = useDistanceUnit();
  const { deck: chosen, uses, chooseDeck, used } = usePhraseUse();
  /** A phrase that waits for its number. */
  const [asking, setAsking] = useState<string | null>(null);
  const [number, setNumber] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  if (!settings.data) return null;
  const decks = decksOf(settings.data);
  const deck = decks.find(({ name }) => name === chosen) ?? decks[0];
  const add = (phrase: string, of: string | null = null) => {
    const known = phraseKnown(settings.data, stations.data ?? [], { unit, deck: deck?.name ?? '' });
    const filled = fillPhrase(phrase, { ...known, number: of });
    const [missing] = filled.missing;
    if (missing === 'number') return setAsking(phrase);
    if (missing) return setTrouble(`“${phrase}”: ${NOT_KNOWN[missing]}.`);
    setTrouble(null);
    setAsking(null);
    setNumber('');
    used(phrase);
    change(withPhrase(text, filled.text));
  };
  return (
    <Stack above={-8} below={16} gap={4}>
      {decks.length > 1 ? (
        <Chips
          line
          label="Deck of phrases"
          options={decks.map(({ name }) => ({ id: name, title: name }))}
          value={deck?.name ?? ''}
          onChange={chooseDeck}
        />
      ) : null}
      <Row role="group" aria-label="Phrases" wrap gap={8}>
        {byUse(deck?.phrases ?? [], uses).map((phrase) => (
          <Press
            key={phrase}
            role="button"
            aria-label={`Add “${phrase}”`}
            onPress={() => add(phrase)}
            minHeight={48}
            padX={12}
            justify="center"
            underlined="sand"
          >
            <Body>{phrase}</Body>
          </Press>
        ))}
      </Row>
      {asking !== null ? (
        <Stack role="group" aria-label={asking} above={8}>
          <Field
            label={`Number for “${asking}”`}
            mono
            inputMode="decimal"
            autoFocus
            value={number}
            onChangeText={setNumber}
          />
          <Row wrap gap={8}>
            <Button
              title="Put it in"
              disabled={/^[\d.,/ -]{1,12}$/.test(number.trim()) ? false : 'A number is missing.'}
              onPress={() => add(asking, number.trim())}
            />
            <Button title="Leave it" kind="plain" onPress={() => setAsking(null)} />
          </Row>
        </Stack>
      ) : null}
      <View aria-live="polite">{trouble ? <Body tone="alarm">{trouble}</Body> : null}</View>
      <Row wrap gap={8} align="center">
        <Button
          title="Clear the text"
          kind="plain"
          disabled={text === '' ? 'Nothing is written yet.' : false}
          onPress={() => change('')}
        />
        <Link href="/tools/phrases" minHeight={48} justify="center" padX={8}>
          <Body tone="tide">Other phrases</Body>
        </Link>
      </Row>
    </Stack>
  );
}

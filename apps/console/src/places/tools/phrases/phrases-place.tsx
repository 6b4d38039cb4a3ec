import { phraseDecks, USUAL_DECKS, type PhraseDeck, type Settings } from '@tombolo/contract';
import { PHRASE_VARIABLES } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../../../live/api';
import { useChange, useSettings } from '../../../live/queries';
import { decksOf } from '../../../phrases/use-phrases';
import { Button } from '../../../ui/button';
import { Field } from '../../../ui/field';
import { Row, Stack } from '../../../ui/layout';
import { Notice, Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { Abbreviations } from './abbreviations';

/** Decks of phrases: by net and by situation, for everybody at this station. */
export function PhrasesPlace() {
  const settings = useSettings();
  return (
    <Page title="Phrases">
      <Body soft below={12}>
        What is written again and again, one press each under the text. In braces stands what is put in then:{' '}
        {PHRASE_VARIABLES.map((name) => `{${name}}`).join(', ')}. The number is asked for; “place” is where we are by
        the nearest thing on the map that has a name; “net” is the name of the deck.
      </Body>
      {settings.isPending ? <Waiting what="the phrases" /> : null}
      {settings.isError ? <Trouble error={settings.error} retry={() => void settings.refetch()} /> : null}
      {settings.data ? (
        <>
          <Decks key={`decks ${JSON.stringify(settings.data.phraseDecks)}`} settings={settings.data} />
          <Rule />
          <Abbreviations
            key={`abbreviations ${JSON.stringify(settings.data.abbreviations)}`}
            settings={settings.data}
          />
        </>
      ) : null}
    </Page>
  );
}

interface WrittenDeck {
  readonly key: string;
  readonly name: string;
  readonly phrases: string;
}
const writtenOf = ({ name, phrases }: PhraseDeck): WrittenDeck => ({
  key: crypto.randomUUID(),
  name,
  phrases: phrases.join('\n'),
});

function Decks({ settings }: { settings: Settings }) {
  const [decks, setDecks] = useState(() => decksOf(settings).map(writtenOf));
  const [removed, setRemoved] = useState<{ deck: WrittenDeck; at: number } | null>(null);
  const [tried, setTried] = useState(false);
  const keep = useChange((next: PhraseDeck[] | null) => api.changeSettings({ phraseDecks: next }), ['settings']);
  const read = phraseDecks.safeParse(
    decks.map(({ name, phrases }) => ({ name, phrases: phrases.split('\n').filter((line) => line.trim() !== '') })),
  );
  const faultOf = (n: number, part: 'name' | 'phrases'): string | undefined => {
    if (!tried) return undefined;
    const issue = read.error?.issues.find(({ path }) => path[0] === n && path[1] === part);
    if (!issue) return undefined;
    const line = issue.path[2];
    return typeof line === 'number' ? `line ${line + 1}: ${issue.message}` : issue.message;
  };
  const change = (n: number, more: Partial<WrittenDeck>) =>
    setDecks(decks.map((deck, m) => (m === n ? { ...deck, ...more } : deck)));
  return (
    <View>
      {decks.map((deck, n) => (
        <Stack key={deck.key} role="group" aria-label={deck.name || `Deck ${n + 1}`} below={16}>
          <Heading level={2}>{deck.name || `Deck ${n + 1}`}</Heading>
          <Field
            label={`Name of deck ${n + 1}`}
            value={deck.name}
            onChangeText={(name) => change(n, { name })}
            error={faultOf(n, 'name')}
            hint="Of a net, or of a situation"
          />
          <Field
            label={`Phrases of deck ${n + 1}`}
            value={deck.phrases}
            onChangeText={(phrases) => change(n, { phrases })}
            multiline
            error={faultOf(n, 'phrases')}
            hint="One a line"
          />
          <Stack align="start">
            <Button
              title="Remove the deck"
              about={deck.name || `deck ${n + 1}`}
              kind="plain"
              onPress={() => {
                setRemoved({ deck, at: n });
                setDecks(decks.filter((_, m) => m !== n));
              }}
            />
          </Stack>
        </Stack>
      ))}
      {removed ? (
        <Notice title={`${removed.deck.name || 'The deck'} is left out when you save`}>
          <Button
            title="Put back"
            about={removed.deck.name}
            kind="plain"
            onPress={() => {
              setDecks([...decks.slice(0, removed.at), removed.deck, ...decks.slice(removed.at)]);
              setRemoved(null);
            }}
          />
        </Notice>
      ) : null}
      {keep.isError ? (
        <Notice kind="alarm" title="Not kept; what you entered is still here">
          {keep.error.message}
        </Notice>
      ) : null}
      <Row wrap gap={8}>
        <Button
          title="Save the phrases"
          busy={keep.isPending}
          onPress={() => {
            setTried(true);
            if (read.success) keep.mutate(read.data, { onSuccess: () => setRemoved(null) });
          }}
        />
        <Button
          title="Add a deck"
          icon="plus"
          kind="plain"
          onPress={() => setDecks([...decks, { key: crypto.randomUUID(), name: '', phrases: '' }])}
        />
        <Button title="Back to the usual ones" kind="plain" onPress={() => setDecks(USUAL_DECKS.map(writtenOf))} />
      </Row>
    </View>
  );
}

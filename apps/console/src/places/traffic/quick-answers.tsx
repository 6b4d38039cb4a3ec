import type { Settings } from '@tombolo/contract';
import { byUse, decksOf, usePhraseUse } from '../../phrases/use-phrases';
import { Button } from '../../ui/button';
import { Row } from '../../ui/layout';

const MOST = 4;

/** What is answered again and again, one press away from being sent: phrases of the chosen deck that need nothing put in. */
export function QuickAnswers({
  settings,
  sender,
  answer,
}: {
  settings: Pick<Settings, 'phraseDecks'>;
  sender: string;
  answer: (text: string) => void;
}) {
  const { deck: chosen, uses, used } = usePhraseUse();
  const decks = decksOf(settings);
  const deck = decks.find(({ name }) => name === chosen) ?? decks[0];
  const phrases = byUse(
    (deck?.phrases ?? []).filter((phrase) => !/[{}]/.test(phrase)),
    uses,
  ).slice(0, MOST);
  if (phrases.length === 0) return null;
  return (
    <Row role="group" aria-label={`Answer ${sender} with`} wrap gap={8} below={16}>
      {phrases.map((phrase) => (
        <Button
          key={phrase}
          title={`“${phrase}”`}
          about={`answer ${sender}`}
          kind="plain"
          onPress={() => {
            used(phrase);
            answer(phrase);
          }}
        />
      ))}
    </Row>
  );
}

import { View } from 'react-native';
import { useBearers } from '../../live/queries';
import { Button } from '../../ui/button';
import { Page } from '../../ui/page';
import { Heading } from '../../ui/text';
import { useDraft, WAYS, type Way } from './draft';
import { RadioText } from './radio-text';
import { BoardMessage } from './ways/board-message';
import { Mail } from './ways/mail';
import { MeshText } from './ways/mesh-text';

const WAY_WORDS: Readonly<Record<Way, string>> = { radio: 'Packet radio', mesh: 'Mesh', board: 'Board', mail: 'Mail' };
const KIND_OF: Readonly<Record<Way, string>> = {
  radio: 'kiss-tcp',
  mesh: 'mesh-mqtt',
  board: 'board',
  mail: 'radio-mail',
};

/** The one composer: the way across, then whom to, what, and what it costs. */
export function WritePlace() {
  const draft = useDraft();
  const bearers = useBearers();
  // Packet radio is always offered: its form says what is missing.
  const ways = WAYS.filter(
    (way) => way === 'radio' || bearers.data?.some(({ config, enabled }) => enabled && config.kind === KIND_OF[way]),
  );
  const way = ways.includes(draft.way) ? draft.way : 'radio';
  return (
    <Page title="Write">
      {ways.length > 1 ? (
        <View style={{ marginBottom: 16 }}>
          <Heading level={3}>Way</Heading>
          <View role="group" aria-label="Way" style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
            {ways.map((candidate) => (
              <Button
                key={candidate}
                title={WAY_WORDS[candidate]}
                kind={candidate === way ? 'main' : 'plain'}
                selected={candidate === way}
                onPress={() =>
                  draft.change({ way: candidate, answers: candidate === draft.way ? draft.answers : null })
                }
              />
            ))}
          </View>
        </View>
      ) : null}
      {way === 'radio' ? <RadioText /> : way === 'mesh' ? <MeshText /> : way === 'board' ? <BoardMessage /> : <Mail />}
    </Page>
  );
}

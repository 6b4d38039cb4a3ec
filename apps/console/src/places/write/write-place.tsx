import { View } from 'react-native';
import { composers, consoleKind } from '../../bearers/registry';
import { useDraft } from '../../live/draft';
import { useBearers } from '../../live/queries';
import { Button } from '../../ui/button';
import { Page } from '../../ui/page';
import { Heading } from '../../ui/text';

/** The one composer: the way across, then whom to, what, and what it costs. */
export function WritePlace() {
  const draft = useDraft();
  const bearers = useBearers();
  const there = new Set(
    bearers.data?.flatMap(({ config, enabled }) => (enabled ? [consoleKind(config.kind).composer?.id] : [])),
  );
  const ways = composers().filter(({ id, always }) => always || there.has(id));
  const way = ways.find(({ id }) => id === draft.way) ?? ways[0];
  return (
    <Page title="Write">
      {ways.length > 1 ? (
        <View style={{ marginBottom: 16 }}>
          <Heading level={3}>Way</Heading>
          <View role="group" aria-label="Way" style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
            {ways.map(({ id, title }) => (
              <Button
                key={id}
                title={title}
                kind={id === way?.id ? 'main' : 'plain'}
                selected={id === way?.id}
                onPress={() => draft.change({ way: id, answers: id === draft.way ? draft.answers : null })}
              />
            ))}
          </View>
        </View>
      ) : null}
      {way ? <way.Form /> : null}
    </Page>
  );
}

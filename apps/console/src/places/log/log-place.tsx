import { router, useLocalSearchParams } from 'expo-router';
import { Button } from '../../ui/button';
import { Row } from '../../ui/layout';
import { Page } from '../../ui/page';
import { ByItselfLog } from './by-itself-log';
import { HeardLog } from './heard-log';
import { ImportPanel } from './import-panel';
import { KeptPanel } from './kept-panel';
import { TrafficLog } from './traffic-log';

const TABS = [
  { id: 'traffic', title: 'Traffic' },
  { id: 'heard', title: 'Heard' },
  { id: 'by-itself', title: 'Positions and answers' },
  { id: 'recordings', title: 'Recordings' },
  { id: 'kept', title: 'What is kept' },
] as const;

/** What one part searched for is no matter of the next. */
const NO_SEARCH = {
  importId: undefined,
  text: undefined,
  station: undefined,
  kind: undefined,
  bearer: undefined,
  from: undefined,
  until: undefined,
};

/** Everything, filtered and searched; exports and imports. */
export function LogPlace({ openPacket }: { openPacket: (id: string) => void }) {
  const { tab = 'traffic', importId } = useLocalSearchParams<{ tab?: string; importId?: string }>();
  const parts = (
    <Row role="group" aria-label="Part of the log" gap={8} below={16} wrap>
      {TABS.map(({ id, title }) => (
        <Button
          key={id}
          title={title}
          kind={tab === id ? 'main' : 'plain'}
          selected={tab === id}
          onPress={() => router.setParams({ tab: id, ...NO_SEARCH })}
        />
      ))}
    </Row>
  );
  if (tab === 'heard') return <HeardLog head={parts} openPacket={openPacket} importId={importId} />;
  if (tab !== 'by-itself' && tab !== 'recordings' && tab !== 'kept') return <TrafficLog head={parts} />;
  return (
    <Page title="Log">
      {parts}
      {tab === 'by-itself' ? (
        <ByItselfLog openPacket={openPacket} />
      ) : tab === 'recordings' ? (
        <ImportPanel />
      ) : (
        <KeptPanel />
      )}
    </Page>
  );
}

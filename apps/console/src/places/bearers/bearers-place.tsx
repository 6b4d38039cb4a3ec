import { View } from 'react-native';
import { useBearers } from '../../live/queries';
import { Button } from '../../ui/button';
import { Row, Stack } from '../../ui/layout';
import { Empty, Page, Rule, Trouble, Waiting } from '../../ui/page';
import { useWide } from '../../ui/look';
import { Heading } from '../../ui/text';
import { AddBearer } from './add-bearer';
import { BearerCard } from './bearer-card';
import { Monitor } from './monitor';
import { SimulationCard } from './simulation-card';

/** One card for each bearer, the simulated district's speed, and what is being heard. */
export function BearersPlace({ openPacket }: { openPacket: (id: string) => void }) {
  const bearers = useBearers();
  const wide = useWide();
  return (
    <Page title="Bearers">
      {bearers.isPending ? <Waiting what="bearers" /> : null}
      {bearers.isError ? <Trouble error={bearers.error} retry={() => void bearers.refetch()} /> : null}
      {bearers.data?.length === 0 ? (
        <Empty icon="transit-connection-variant" title="No bearer yet">
          A bearer is a way across: a modem that speaks KISS over TCP, or a feed of packets as text. Add one below; it
          connects at once and says why when it cannot.
        </Empty>
      ) : null}
      {bearers.data?.map((bearer) => (
        <BearerCard key={bearer.id} bearer={bearer} />
      ))}
      <Stack align="start" below={16}>
        <Button title="Ready check: what is wrong?" icon="check-circle-outline" kind="plain" href="/tools/ready" />
      </Stack>
      <AddBearer />
      <SimulationCard />
      {wide ? null : (
        <>
          <Rule />
          <HeardNow openPacket={openPacket} />
        </>
      )}
    </Page>
  );
}

/** What is being heard, newest first. */
export function HeardNow({ openPacket }: { openPacket: (id: string) => void }) {
  return (
    <View>
      <Row justify="between" align="center" gap={8}>
        <Heading level={2}>Heard now</Heading>
        <Button title="All in the log" kind="plain" href="/log?tab=heard" />
      </Row>
      <Monitor openPacket={openPacket} />
    </View>
  );
}

import { View } from 'react-native';
import { useBearers, useTransmissions } from '../../live/queries';
import { Empty, Trouble, Waiting } from '../../ui/page';
import { ShowOlder } from '../../ui/show-older';
import { TransmissionRow } from './transmission-row';

/** What this station sent of itself, for nobody's item: each with what became of it. */
export function ByItselfLog({ openPacket }: { openPacket: (id: string) => void }) {
  const list = useTransmissions();
  const bearers = useBearers();
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  if (list.isPending) return <Waiting what="what was sent" />;
  if (list.isLoadingError) return <Trouble error={list.error} retry={() => void list.refetch()} />;
  if (rows.length === 0)
    return (
      <Empty icon="radio-tower" title="Nothing of the kind was sent">
        Positions that you send, and answers to stations that ask everybody where they are – where Settings allow them –
        are entered here with their evidence.
      </Empty>
    );
  return (
    <View role="list" aria-label="Positions and answers">
      {rows.map((row) => (
        <TransmissionRow key={row.id} row={row} bearers={bearers.data ?? []} openPacket={openPacket} />
      ))}
      <ShowOlder list={list} />
    </View>
  );
}

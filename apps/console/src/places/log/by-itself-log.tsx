import type { BearerView, TransmissionView } from '@tombolo/contract';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { useBearers, useTransmissions } from '../../live/queries';
import { Instant } from '../../ui/clock';
import { Icon } from '../../ui/icon';
import { useLook } from '../../ui/look';
import { Empty, Trouble, Waiting } from '../../ui/page';
import { ShowOlder } from '../../ui/show-older';
import { Body } from '../../ui/text';
import { EvidenceList } from '../traffic/evidence-list';
import { transmissionWords } from './by-itself-words';

/** What this station sent of itself, for nobody's item: each with what became of it. */
export function ByItselfLog({ openPacket }: { openPacket: (id: string) => void }) {
  const list = useTransmissions();
  const bearers = useBearers();
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  if (list.isPending) return <Waiting what="what was sent" />;
  if (list.isError) return <Trouble error={list.error} retry={() => void list.refetch()} />;
  if (rows.length === 0)
    return (
      <Empty icon="radio-tower" title="Nothing was sent automatically">
        When a station asks everybody where they are, and Settings allow answers, your position goes out and is entered
        here with its evidence.
      </Empty>
    );
  return (
    <View role="list" aria-label="Sent automatically">
      {rows.map((row) => (
        <Row key={row.id} row={row} bearers={bearers.data ?? []} openPacket={openPacket} />
      ))}
      <ShowOlder list={list} />
    </View>
  );
}

function Row({
  row,
  bearers,
  openPacket,
}: {
  row: TransmissionView;
  bearers: readonly BearerView[];
  openPacket: (id: string) => void;
}) {
  const look = useLook();
  const [open, setOpen] = useState(false);
  const note = row.evidence.find(({ kind }) => kind === 'queued')?.note ?? `to ${row.to}`;
  const why = `${note.slice(0, 1).toUpperCase()}${note.slice(1)}`;
  const bearer = bearers.find(({ id }) => id === row.bearerId)?.name ?? row.bearerId;
  return (
    <View role="listitem" style={{ borderBottomWidth: 1, borderBottomColor: look.rule }}>
      <View style={{ flexDirection: 'row', gap: 8, paddingVertical: 10 }}>
        <Pressable
          role="button"
          aria-expanded={open}
          aria-label={`${why}: evidence`}
          onPress={() => setOpen(!open)}
          style={{ flex: 1, flexDirection: 'row', gap: 12, minHeight: 48 }}
        >
          <Icon name={open ? 'chevron-up' : 'chevron-down'} color={look.inkSoft} />
          <View style={{ flex: 1, gap: 2 }}>
            <Body bold>{why}</Body>
            <Body soft>{[transmissionWords(row), bearer].filter(Boolean).join(' · ')}</Body>
          </View>
        </Pressable>
        <Instant iso={row.createdAt} seconds />
      </View>
      {open ? <EvidenceList evidence={row.evidence} arrived={false} bearers={bearers} openPacket={openPacket} /> : null}
    </View>
  );
}

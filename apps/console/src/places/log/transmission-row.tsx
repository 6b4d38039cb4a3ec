import type { BearerView, TransmissionView } from '@tombolo/contract';
import { useState } from 'react';
import { Instant } from '../../ui/clock';
import { Icon } from '../../ui/icon';
import { Row, Stack } from '../../ui/layout';
import { useLook } from '../../ui/look';
import { Body } from '../../ui/text';
import { EvidenceList } from '../traffic/evidence-list';
import { transmissionWords } from './by-itself-words';
import { Press } from '../../ui/press';

/** One transmission that belongs to no item, with its evidence on tap. */
export function TransmissionRow({
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
  const became = [transmissionWords(row), bearer].filter(Boolean).join(' · ');
  return (
    <Stack role="listitem" ruled>
      <Row gap={8} padY={10}>
        <Press role="button" aria-expanded={open} onPress={() => setOpen(!open)} row fill gap={12} minHeight={48}>
          <Icon name={open ? 'chevron-up' : 'chevron-down'} color={look.inkSoft} />
          <Stack fill gap={2}>
            <Body bold>{why}</Body>
            <Body soft>{became}</Body>
          </Stack>
        </Press>
        <Instant iso={row.createdAt} seconds />
      </Row>
      {open ? <EvidenceList evidence={row.evidence} arrived={false} bearers={bearers} openPacket={openPacket} /> : null}
    </Stack>
  );
}

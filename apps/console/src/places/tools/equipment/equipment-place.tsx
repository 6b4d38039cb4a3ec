import { NO_PLAN, type KeptPieceView, type PieceChange } from '@tombolo/contract';
import { setUpSheet, type PieceKind } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Row, Stack } from '../../../ui/layout';
import { Empty, Notice, Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { RemoveButton } from '../../../ui/remove-button';
import { Body } from '../../../ui/text';
import { equipmentAtStation, useEquipment } from './at-station';
import { AsBearer } from './as-bearer';
import { EquipmentFileBox } from './equipment-file-box';
import { PieceForm } from './piece-form';
import { PIECE_KIND_WORDS, pieceWords } from './words';

const KINDS = Object.entries(PIECE_KIND_WORDS).map(([id, words]) => ({ id: id as PieceKind, ...words }));

/** Radios, modems, antennas, nodes, position receivers and cells that the station consists of. */
export function EquipmentPlace() {
  const equipment = useEquipment();
  const [open, setOpen] = useState<{ id: string; kind: PieceKind | null; kept: KeptPieceView | null } | null>(null);
  const keep = useChange(equipmentAtStation.keep, ['equipment']);
  const remove = useChange(equipmentAtStation.remove, ['equipment']);
  const kept = (id: string) => (piece: PieceChange) => keep.mutate({ id, piece }, { onSuccess: () => setOpen(null) });
  const start = (kind: PieceKind | null, piece: KeptPieceView | null = null) => {
    keep.reset();
    setOpen({ id: piece?.id ?? crypto.randomUUID(), kind, kept: piece });
  };
  const pieces = equipment.data ?? [];
  return (
    <Page title="Equipment">
      <Body soft below={12}>
        What the station consists of, by its properties. From it comes the set-up sheet: everything that has to be keyed
        into a set, why, and what it looks like when it is right.
      </Body>
      {equipment.isPending ? <Waiting what="equipment" /> : null}
      {equipment.isError ? <Trouble error={equipment.error} retry={() => void equipment.refetch()} /> : null}
      {equipment.data?.length === 0 && !open ? (
        <Empty icon="radio-handheld" title="Nothing yet">
          Begin with the radio, then its antenna. Its sheet is there at once.
        </Empty>
      ) : null}
      <View role="list" aria-label="Equipment">
        {pieces.map((piece) => (
          <PieceRow
            key={piece.id}
            piece={piece}
            pieces={pieces}
            busy={remove.isPending}
            change={() => start(piece.kind, piece)}
            remove={() => remove.mutate(piece)}
          />
        ))}
      </View>
      {remove.isError ? (
        <Notice kind="alarm" title="Not removed">
          {remove.error.message}
        </Notice>
      ) : null}
      {!open && equipment.data ? (
        <Stack align="start" above={12}>
          <Button title="Add a piece" onPress={() => start(null)} />
        </Stack>
      ) : null}
      {open && open.kind === null ? (
        <Stack above={12}>
          <Choice<PieceKind | ''>
            label="What is it?"
            value=""
            options={KINDS}
            onChange={(kind) => kind && start(kind)}
          />
          <Button title="Cancel" kind="plain" onPress={() => setOpen(null)} />
        </Stack>
      ) : null}
      {open && open.kind !== null ? (
        <PieceForm
          key={open.id}
          kind={open.kind}
          kept={open.kept}
          pieces={pieces.filter(({ id }) => id !== open.id)}
          busy={keep.isPending}
          trouble={keep.isError ? keep.error.message : null}
          keep={kept(open.id)}
          leave={() => setOpen(null)}
        />
      ) : null}
      <Rule />
      <EquipmentFileBox count={pieces.length} />
    </Page>
  );
}

interface PieceRowProps {
  piece: KeptPieceView;
  pieces: readonly KeptPieceView[];
  busy: boolean;
  change: () => void;
  remove: () => void;
}

function PieceRow({ piece, pieces, busy, change, remove }: PieceRowProps) {
  const hasSheet = setUpSheet(piece, pieces, NO_PLAN).length > 0;
  return (
    <Stack role="listitem" gap={8} padY={8} ruled>
      <View>
        <Body bold>{piece.name}</Body>
        <Body soft>{`${PIECE_KIND_WORDS[piece.kind].title} · ${pieceWords(piece, pieces)}`}</Body>
      </View>
      <Row wrap gap={8}>
        {hasSheet ? (
          <Button title="Set-up sheet" about={piece.name} kind="plain" href={`/tools/equipment/${piece.id}`} />
        ) : null}
        {piece.kind === 'modem' ? <AsBearer modem={piece} /> : null}
        <Button title="Change" about={piece.name} kind="plain" onPress={change} />
        <RemoveButton about={piece.name} busy={busy} onRemove={remove} />
      </Row>
    </Stack>
  );
}

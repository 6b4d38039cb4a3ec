import {
  asksWho,
  holderFault,
  ownStation,
  planOf,
  REPORTS,
  type KeptPieceView,
  type Reports,
  type Settings,
  type SheetHolder,
} from '@tombolo/contract';
import { equipmentRoutes } from '@tombolo/contract/routes/equipment';
import { OWN_SYMBOLS, setUpSheet, sheetDifferences, symbolInWords, symbolOf, type SheetLine } from '@tombolo/core';
import { useLocalSearchParams } from 'expo-router';
import { useState } from 'react';
import { usePreferences } from '../../../live/preferences';
import { useBearers, useSettings } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { Stack } from '../../../ui/layout';
import { Notice, Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { NotOnPaper } from '../../../ui/paper';
import { TakeAlong } from '../../../ui/take-along';
import { urlOf } from '../../../live/ask';
import { saveFile } from '../../log/save';
import { useEquipment } from './at-station';
import { SheetDifferences } from './sheet-differences';
import { SheetLines } from './sheet-lines';

/** Everything that has to be keyed into one piece, for us or for somebody with the same. */
export function SheetPlace() {
  const { id } = useLocalSearchParams<{ id: string }>();
  const equipment = useEquipment();
  const settings = useSettings();
  const piece = equipment.data?.find((one) => one.id === id);
  return (
    <Page title="Set-up sheet">
      {equipment.isPending || settings.isPending ? <Waiting what="equipment" /> : null}
      {equipment.isError ? <Trouble error={equipment.error} retry={() => void equipment.refetch()} /> : null}
      {settings.isError ? <Trouble error={settings.error} retry={() => void settings.refetch()} /> : null}
      {equipment.data && !piece ? (
        <Notice title="This piece is not on the list">
          <Body>It was removed, or this is the address of another station.</Body>
          <Button title="Go to Equipment" kind="plain" href="/tools/equipment" />
        </Notice>
      ) : null}
      {piece && settings.data ? <Sheet piece={piece} pieces={equipment.data!} settings={settings.data} /> : null}
    </Page>
  );
}

/** A sheet as plain text, a line each. */
export const sheetAsText = (title: string, lines: readonly SheetLine[]): string =>
  [title, ...lines.map(({ subject, what, value, why }) => `[ ] ${subject}: ${what}: ${value} (${why})`)].join('\n');

function Sheet({
  piece,
  pieces,
  settings,
}: {
  piece: KeptPieceView;
  pieces: readonly KeptPieceView[];
  settings: Settings;
}) {
  const bearers = useBearers();
  const us: SheetHolder = { who: '', symbol: settings.symbol, reports: 'hand' };
  const [holder, setHolder] = useState(us);
  const [forAnother, setForAnother] = useState(false);
  const change = (more: Partial<SheetHolder>) => setHolder({ ...holder, ...more });
  const fault = holderFault(holder.who);
  const ours = ownStation(settings) ?? 'us';
  const whose = holder.who.trim() === '' || fault ? ours : holder.who.trim().toUpperCase();
  const sheetOf = (one: SheetHolder) => setUpSheet(piece, pieces, planOf(one, settings, bearers.data ?? []));
  const lines = sheetOf(holder);
  return (
    <>
      <Heading level={2}>{piece.name}</Heading>
      {asksWho(piece, pieces) ? (
        <NotOnPaper>
          <Choice<Reports>
            label="Position reports of the set"
            options={REPORTS}
            value={holder.reports}
            onChange={(reports) => change({ reports })}
          />
          {forAnother ? <AnotherHolder holder={holder} change={change} fault={fault} /> : null}
          <Stack align="start" below={12}>
            <Button
              title={forAnother ? `Back to our own sheet` : 'For somebody with the same set'}
              kind="plain"
              onPress={() => {
                setForAnother(!forAnother);
                change({ who: '', symbol: us.symbol });
              }}
            />
          </Stack>
        </NotOnPaper>
      ) : null}
      <TakeAlong text={sheetAsText(`${piece.name}, for ${whose}`, lines)} about={piece.name} print />
      <NotOnPaper>
        <Stack align="start" below={8}>
          <Button
            title="Save as PDF"
            about={`${piece.name}, for ${whose}`}
            icon="download-outline"
            kind="plain"
            onPress={() =>
              saveFile(urlOf(equipmentRoutes.sheet, { params: { id: piece.id }, query: pdfOf(holder, fault) }))
            }
          />
        </Stack>
      </NotOnPaper>
      {whose !== ours ? (
        <SheetDifferences
          differences={sheetDifferences(sheetOf({ ...us, reports: holder.reports }), lines)}
          theirs={whose}
        />
      ) : null}
      <Rule />
      <Signature />
      <SheetLines pieceId={piece.id} lines={lines} whose={whose} />
    </>
  );
}

/** What is written is what is shown: while somebody types a call that is none, our own sheet. */
const pdfOf = ({ who, symbol, reports }: SheetHolder, fault: string | null) => ({
  who: fault ? '' : who.trim(),
  symbol,
  reports,
});

interface AnotherHolderProps {
  holder: SheetHolder;
  change: (more: Partial<SheetHolder>) => void;
  fault: string | null;
}

function AnotherHolder({ holder, change, fault }: AnotherHolderProps) {
  return (
    <>
      <Field
        label="For whom"
        hint="A call sign with its SSID"
        value={holder.who}
        onChangeText={(who) => change({ who })}
        error={fault ?? undefined}
        mono
        autoCapitalize="characters"
      />
      <Choice<string>
        label="Shown as"
        options={OWN_SYMBOLS.map((id) => ({ id, title: symbolInWords(symbolOf(id)!) }))}
        value={holder.symbol}
        onChange={(symbol) => change({ symbol })}
      />
    </>
  );
}

/** Who ticks: asked once on a device. */
function Signature() {
  const { initials, prefer } = usePreferences();
  return (
    <NotOnPaper>
      <Field
        label="Your initials"
        hint="They are kept with each tick, and on this device."
        value={initials}
        onChangeText={(text) => prefer({ initials: text.slice(0, 30) })}
        autoCapitalize="characters"
      />
    </NotOnPaper>
  );
}

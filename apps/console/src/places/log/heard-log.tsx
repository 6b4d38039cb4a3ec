import { router } from 'expo-router';
import { useDeferredValue, useMemo, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { useAddressed } from '../../live/addressed';
import { type HeardQuery } from '../../live/api';
import { useBearers, usePackets } from '../../live/queries';
import { exportUrl } from '../../live/exports';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';
import { useNow } from '../../ui/clock';
import { Field } from '../../ui/field';
import { Row, Stack } from '../../ui/layout';
import { Empty, LongPage, Notice, Trouble, Waiting } from '../../ui/page';
import { ShowOlder } from '../../ui/show-older';
import { Body } from '../../ui/text';
import { readUtc } from '../../ui/typed-time';
import { PacketRow } from '../packet/packet-row';
import { saveFile } from './save';

const KINDS = [
  { id: '', title: 'Every kind' },
  { id: 'message', title: 'Texts' },
  { id: 'ack', title: 'Acknowledgements' },
  { id: 'bulletin', title: 'Bulletins' },
  { id: 'position', title: 'Positions' },
  { id: 'Mic-E', title: 'Mic-E positions' },
  { id: 'object', title: 'Objects' },
  { id: 'item', title: 'Items' },
  { id: 'status', title: 'Status' },
  { id: 'weather', title: 'Weather without position' },
  { id: 'telemetry', title: 'Telemetry' },
  { id: 'telemetry definition', title: 'Telemetry definitions' },
  { id: 'query', title: 'Queries' },
  { id: 'capabilities', title: 'Capabilities' },
  { id: 'NMEA', title: 'Sentences of position receivers (NMEA)' },
  { id: 'user defined', title: 'User defined' },
  { id: 'connection', title: 'Connected-mode frames' },
  { id: 'mesh text', title: 'Mesh texts' },
  { id: 'mesh acknowledgement', title: 'Mesh acknowledgements' },
  { id: 'mesh announcement', title: 'Mesh announcements' },
  { id: 'mesh sealed', title: 'Sealed mesh packets' },
  { id: 'not understood', title: 'Not understood' },
] as const;
type KindId = (typeof KINDS)[number]['id'];

const USUAL = { text: '', station: '', kind: '', bearer: '', from: '', until: '' };

const NO_TIME = 'a time in UTC such as 2026-11-25 14:05, 14:05 for today, or a day such as 2026-11-25';

/** Every packet heard, with filters that also rule the exports. */
export function HeardLog({
  head,
  openPacket,
  importId,
}: {
  head: ReactNode;
  openPacket: (id: string) => void;
  importId?: string;
}) {
  const now = useNow(60_000);
  const [said, change] = useAddressed(USUAL);
  const { text, station, bearer: bearerId, from, until } = said;
  const kind = KINDS.find(({ id }) => id === said.kind)?.id ?? '';
  const [filters, setFilters] = useState(false);
  const bearers = useBearers();
  const query = useDeferredValue(
    useMemo<HeardQuery>(
      () => ({
        text,
        station: station.trim().toUpperCase(),
        kind,
        bearerId,
        importId,
        from: readUtc(from, now) ?? undefined,
        to: readUtc(until, now, true) ?? undefined,
      }),
      [text, station, kind, bearerId, importId, from, until, now],
    ),
  );
  const packets = usePackets(query);
  const rows = packets.data?.pages.flatMap((page) => page.rows) ?? [];
  const filtered = Boolean(text || station || kind || bearerId || from || until);
  return (
    <LongPage
      title="Log"
      rows={rows}
      of={JSON.stringify([said, importId])}
      keyOf={(packet) => packet.id}
      draw={(packet) => <PacketRow packet={packet} onPress={() => openPacket(packet.id)} />}
      foot={<ShowOlder list={packets} />}
      head={
        <View>
          {head}
          {importId ? (
            <Notice title="Only packets of one recording">
              <Button
                title="Show everything heard"
                kind="plain"
                onPress={() => router.setParams({ importId: undefined })}
              />
            </Notice>
          ) : null}
          <Field
            label="Search"
            value={text}
            onChangeText={(words) => change({ text: words })}
            hint="Words of the packet, sender or addressee"
          />
          <Stack align="start" below={12}>
            <Button
              title={filters ? 'Fewer filters' : 'More filters'}
              icon="filter-outline"
              kind="plain"
              onPress={() => setFilters(!filters)}
            />
          </Stack>
          {filters ? (
            <View>
              <Field
                label="Station"
                mono
                value={station}
                onChangeText={(call) => change({ station: call })}
                hint="Sender or addressee, whole"
                autoCapitalize="characters"
              />
              {(['from', 'until'] as const).map((end) => (
                <Field
                  key={end}
                  label={end === 'from' ? 'Heard from, UTC' : 'Heard until, UTC'}
                  mono
                  value={said[end]}
                  onChangeText={(time) => change({ [end]: time })}
                  error={said[end].trim() !== '' && readUtc(said[end], now) === null ? NO_TIME : undefined}
                  hint="2026-11-25 14:05, or 14:05 for today, or a day"
                />
              ))}
              <Choice<KindId> label="Kind" value={kind} onChange={(id) => change({ kind: id })} options={KINDS} />
              <Choice<string>
                label="Bearer"
                value={bearerId}
                onChange={(id) => change({ bearer: id })}
                options={[
                  { id: '', title: 'Every bearer' },
                  ...(bearers.data ?? []).map((bearer) => ({ id: bearer.id, title: bearer.name })),
                ]}
              />
            </View>
          ) : null}
          <Row wrap gap={8} below={8}>
            <Button
              title="Save as capture file"
              icon="download-outline"
              kind="plain"
              onPress={() => saveFile(exportUrl('heard.pcap', query))}
            />
            <Button
              title="Save as monitor text"
              icon="download-outline"
              kind="plain"
              onPress={() => saveFile(exportUrl('heard.txt', query))}
            />
          </Row>
          <Body soft below={8}>
            Frames of a mesh are in neither file: they are no packets of AX.25.
          </Body>
          {packets.isPending ? <Waiting what="what was heard" /> : null}
          {packets.isError ? <Trouble error={packets.error} retry={() => void packets.refetch()} /> : null}
          {packets.data && rows.length === 0 ? (
            <Empty icon="ear-hearing" title={filtered ? 'Nothing matches' : 'Nothing heard yet'}>
              {filtered
                ? 'Change or clear the filters.'
                : 'Every packet that a bearer or a recording brings is kept here with its copies.'}
            </Empty>
          ) : null}
        </View>
      }
    />
  );
}

import type { ImportView } from '@tombolo/contract';
import LinearProgress from '@rneui/themed/dist/LinearProgress';
import { counted } from '@tombolo/core';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { useChange, useFailures } from '../../live/queries';
import { importApi, useImports } from '../../live/imports';
import { Button } from '../../ui/button';
import { FileButton } from '../../ui/file-button';
import { Choice } from '../../ui/choice';
import { Instant } from '../../ui/clock';
import { Row, Stack } from '../../ui/layout';
import { useLook } from '../../ui/look';
import { Empty, Notice, Trouble, Waiting } from '../../ui/page';
import { octetsInWords } from '../../ui/quantity';
import { Body, Heading, Mono } from '../../ui/text';

const FORMATS = [
  { id: 'pcap', title: 'Capture file', hint: 'AX.25, bare or with KISS, with its own times.' },
  {
    id: 'kiss',
    title: 'KISS octets',
    hint: 'As a modem sent them; they carry no times and are set a second apart from now on.',
  },
  { id: 'monitor', title: 'Monitor text', hint: 'One packet a line, perhaps with a UTC time in front.' },
] as const;
type Format = (typeof FORMATS)[number]['id'];

/** The form that a file name hints at. */
export function formatOfName(name: string): Format | null {
  const ending = name.toLowerCase().split('.').pop();
  if (ending === 'pcap' || ending === 'cap') return 'pcap';
  if (ending === 'kiss' || ending === 'kss') return 'kiss';
  if (ending === 'txt' || ending === 'log') return 'monitor';
  return null;
}

/** Recordings go through the same door as a modem; nothing is dropped silently. */
export function ImportPanel() {
  const [format, setFormat] = useState<Format>('pcap');
  const [file, setFile] = useState<File | null>(null);
  const imports = useImports();
  const load = useChange(
    ({ chosen, as }: { chosen: File; as: Format }) => importApi.importFile(chosen, chosen.name, as),
    ['imports', 'packets', 'stations'],
  );
  return (
    <View>
      <Heading level={2}>Read a recording</Heading>
      <Body soft below={12}>
        It is heard as if it had come in then: copies are joined, stations and evidence are updated, and nothing is ever
        transmitted because of it.
      </Body>
      <Stack align="start" gap={8} below={12}>
        <FileButton
          title={file ? 'Choose another file' : 'Choose a file'}
          icon="file-outline"
          kind={file ? 'plain' : 'main'}
          label="Recording"
          onFile={(chosen) => {
            setFile(chosen);
            const hint = formatOfName(chosen.name);
            if (hint) setFormat(hint);
          }}
        />
        {file ? <Mono>{`${file.name}, ${octetsInWords(file.size)}`}</Mono> : null}
      </Stack>
      {file ? (
        <View>
          <Choice<Format> label="What is in it" value={format} onChange={setFormat} options={FORMATS} />
          <Button
            title="Read it"
            busy={load.isPending}
            onPress={() => load.mutate({ chosen: file, as: format }, { onSuccess: () => setFile(null) })}
          />
        </View>
      ) : null}
      {load.isError ? (
        <Notice kind="alarm" title="The recording was not read to its end">
          {load.error.message}
        </Notice>
      ) : null}

      <Heading level={2} above={24}>
        Read so far
      </Heading>
      {imports.isPending ? <Waiting what="imports" /> : null}
      {imports.isError ? <Trouble error={imports.error} retry={() => void imports.refetch()} /> : null}
      {imports.data?.length === 0 ? (
        <Empty icon="tape-drive" title="No recording yet">
          A recording that was read is listed here with how much of it was understood.
        </Empty>
      ) : null}
      {imports.data?.map((run) => (
        <ImportRow key={run.id} run={run} />
      ))}
    </View>
  );
}

function ImportRow({ run }: { run: ImportView }) {
  const look = useLook();
  const [open, setOpen] = useState(false);
  const remove = useChange(() => importApi.removeImport(run.id), ['imports']);
  const share = run.totalOctets ? Math.min(1, run.readOctets / run.totalOctets) : null;
  return (
    <Stack padY={12} ruled gap={4}>
      <Row justify="between" gap={8}>
        <Body bold shrink={1}>
          {run.name}
        </Body>
        <Instant iso={run.startedAt} />
      </Row>
      {run.finishedAt === null ? (
        <View role="status">
          <Body soft>{share === null ? 'Reading…' : `Reading, ${Math.round(share * 100)} %`}</Body>
          <LinearProgress
            value={share ?? undefined}
            variant={share === null ? 'indeterminate' : 'determinate'}
            color={look.sand}
            trackColor={look.rule}
            animation={false}
          />
        </View>
      ) : null}
      <Body>{`${run.understood} understood, ${run.notUnderstood} not understood; ${counted(run.packets, 'packet')} after copies were joined`}</Body>
      {run.kinds.length > 0 ? (
        <Body soft>{`Understood: ${run.kinds.map(({ kind, count }) => `${count} ${kind}`).join(', ')}`}</Body>
      ) : null}
      {run.reasons.length > 0 ? (
        <View role="list" aria-label="Why not understood">
          {run.reasons.slice(0, 5).map(({ reason, count }) => (
            <View role="listitem" key={reason}>
              <Body soft>{`${count} × ${reason}`}</Body>
            </View>
          ))}
        </View>
      ) : null}
      {run.problem ? (
        <Notice kind="alarm" title="It stopped early">
          {run.problem}
        </Notice>
      ) : null}
      <Row wrap gap={8}>
        <Button
          title="Show its packets"
          about={run.name}
          kind="plain"
          onPress={() => router.setParams({ tab: 'heard', importId: run.id })}
        />
        {run.notUnderstood > 0 ? (
          <Button
            title={open ? 'Hide octets' : 'Show what was not understood'}
            about={run.name}
            kind="plain"
            onPress={() => setOpen(!open)}
          />
        ) : null}
        {run.finishedAt !== null ? (
          <Button
            title="Take off the list"
            about={`${run.name}; what was read from it stays in the log`}
            kind="plain"
            busy={remove.isPending}
            onPress={() => remove.mutate(undefined)}
          />
        ) : null}
      </Row>
      {remove.isError ? (
        <Notice kind="alarm" title="That did not work">
          {remove.error.message}
        </Notice>
      ) : null}
      {open ? <FailureList importId={run.id} /> : null}
    </Stack>
  );
}

function FailureList({ importId }: { importId: string }) {
  const failures = useFailures(importId);
  if (failures.isPending) return <Waiting what="reasons" />;
  if (failures.isLoadingError) return <Trouble error={failures.error} retry={() => void failures.refetch()} />;
  const rows = failures.data.pages.flatMap((page) => page.rows);
  return (
    <View role="list" aria-label="Not understood">
      {rows.map((failure) => (
        <Stack key={failure.id} role="listitem" padY={6}>
          <Body>{`${failure.reason} (octet ${failure.offset})`}</Body>
          <Mono soft numberOfLines={2} size={14} line={20}>
            {failure.rawHex.replace(/(..)/g, '$1 ').trim() || 'no octets'}
          </Mono>
        </Stack>
      ))}
      {failures.hasNextPage ? (
        <Button title="Show more" kind="plain" onPress={() => void failures.fetchNextPage()} />
      ) : null}
    </View>
  );
}

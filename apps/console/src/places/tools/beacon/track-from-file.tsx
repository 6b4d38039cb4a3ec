import LinearProgress from '@rneui/themed/dist/LinearProgress';
import { createTrackReader, type TrackFile } from '@tombolo/core';
import { useRef, useState } from 'react';
import { View } from 'react-native';
import { Button } from '../../../ui/button';
import { FileButton } from '../../../ui/file-button';
import { Row, Stack } from '../../../ui/layout';
import { useLook } from '../../../ui/look';
import { Notice } from '../../../ui/page';
import { Body } from '../../../ui/text';

export interface NamedTrack extends TrackFile {
  readonly name: string;
}

/** Between two pieces of a file others may be drawn. */
const rest = () => new Promise<void>((resolve) => setTimeout(resolve, 0));

/** Reads a file piece by piece, as large as it is; null when it was stopped. */
export async function readTrackFile(
  file: Pick<File, 'size' | 'stream'>,
  tell: (share: number) => void,
  stopped: () => boolean,
): Promise<ReturnType<ReturnType<typeof createTrackReader>['end']> | null> {
  const reader = createTrackReader();
  const text = new TextDecoder();
  const pieces = file.stream().getReader();
  let octets = 0;
  for (;;) {
    const { done, value } = await pieces.read();
    if (stopped()) {
      await pieces.cancel();
      return null;
    }
    if (done) break;
    octets += value.length;
    if (!reader.push(text.decode(value, { stream: true }))) {
      await pieces.cancel();
      break;
    }
    tell(file.size > 0 ? octets / file.size : 1);
    await rest();
  }
  return reader.end();
}

/** A track that somebody recorded, to compare on; it stays on this device. */
export function TrackFromFile({ take }: { take: (track: NamedTrack) => void }) {
  const look = useLook();
  const run = useRef(0);
  const [share, setShare] = useState<number | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const read = async (file: File) => {
    const mine = ++run.current;
    setFault(null);
    setShare(0);
    const track = await readTrackFile(file, setShare, () => run.current !== mine).catch(() => ({
      ok: false as const,
      error: { at: 0, reason: 'the file could not be read' },
    }));
    if (run.current !== mine || track === null) return;
    setShare(null);
    if (track.ok) take({ ...track.value, name: file.name });
    else setFault(track.error.reason);
  };
  return (
    <Stack gap={8} below={8}>
      <Row wrap gap={8} align="center">
        <FileButton
          title="A track from a file"
          icon="file-outline"
          kind="plain"
          busy={share !== null}
          label="Track file"
          accept=".gpx,.nmea,.txt,.log,application/gpx+xml"
          onFile={(file) => void read(file)}
        />
        {share !== null ? (
          <Button
            title="Stop reading"
            kind="plain"
            onPress={() => {
              run.current++;
              setShare(null);
            }}
          />
        ) : null}
      </Row>
      <View aria-live="polite">
        {share !== null ? (
          <>
            <LinearProgress color={look.tide} variant="determinate" value={share} />
            <Body soft>{`${Math.round(share * 100)} % read`}</Body>
          </>
        ) : null}
        {fault ? (
          <Notice kind="alarm" title="That is no track">
            {`${fault}. GPX and NMEA 0183 are read.`}
          </Notice>
        ) : null}
      </View>
    </Stack>
  );
}

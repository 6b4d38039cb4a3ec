import type { StationChange, StationDetail } from '@tombolo/contract';
import { useState } from 'react';
import { api } from '../../../live/api';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { CheckRow } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Heading } from '../../../ui/text';

/** The operator's own word on a station: a note, and whether it is to be hidden. */
export function KeepCard({ station }: { station: StationDetail }) {
  const [note, setNote] = useState(station.note);
  const change = useChange((wanted: StationChange) => api.changeStation(station.call, wanted), ['stations', 'station']);
  return (
    <Stack above={16}>
      <Heading level={2}>Your note</Heading>
      <Field
        label="Note"
        value={note}
        onChangeText={setNote}
        multiline
        maxLength={2000}
        hint="Only on this station, never sent"
      />
      {note !== station.note ? (
        <Stack align="start" below={8}>
          <Button title="Save the note" busy={change.isPending} onPress={() => change.mutate({ note })} />
        </Stack>
      ) : null}
      <CheckRow
        label="Mute"
        hint="Hides it from list and map. What it sends is still kept, and texts to you still arrive."
        checked={station.muted}
        onChange={(muted) => change.mutate({ muted })}
      />
      {change.isError ? (
        <Notice kind="alarm" title="Not saved">
          {change.error.message}
        </Notice>
      ) : null}
    </Stack>
  );
}

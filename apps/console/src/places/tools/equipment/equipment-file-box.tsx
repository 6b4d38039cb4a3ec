import { equipmentFile } from '@tombolo/contract';
import { counted } from '@tombolo/core';
import { useRef, useState } from 'react';
import { View } from 'react-native';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Notice } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { saveFile } from '../../log/save';
import { equipmentAtStation } from './at-station';

const MOST_FILE_OCTETS = 1_000_000;

/** What is in a file, or what is wrong with it. */
export function readEquipmentText(text: string): { file: ReturnType<typeof equipmentFile.parse> } | { fault: string } {
  let told: unknown;
  try {
    told = JSON.parse(text);
  } catch {
    return { fault: 'It is no JSON.' };
  }
  const read = equipmentFile.safeParse(told);
  if (read.success) return { file: read.data };
  const [first] = read.error.issues;
  const at = first?.path.join('.') ?? '';
  return { fault: at === '' ? (first?.message ?? '') : `${at}: ${first?.message}` };
}

/** Equipment as a file, out and in. */
export function EquipmentFileBox({ count }: { count: number }) {
  const input = useRef<HTMLInputElement | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const read = useChange(equipmentAtStation.readFile, ['equipment']);
  const take = async (chosen: File | undefined) => {
    read.reset();
    if (!chosen) return;
    if (chosen.size > MOST_FILE_OCTETS) return setFault('It is larger than 1 MB: this is no equipment.');
    const told = readEquipmentText(await chosen.text());
    if ('fault' in told) return setFault(told.fault);
    setFault(null);
    read.mutate(told.file);
  };
  return (
    <View>
      <Heading level={2}>As a file</Heading>
      <Body soft style={{ marginBottom: 8 }}>
        To carry to another station, or to somebody with the same set. A piece that is already here is replaced.
      </Body>
      <input
        ref={input}
        type="file"
        accept="application/json,.json"
        aria-label="Equipment file"
        style={{ display: 'none' }}
        onChange={(event) => {
          void take(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
        <Button
          title="Save as a file"
          icon="download-outline"
          kind="plain"
          disabled={count === 0 ? 'There is nothing to save yet.' : false}
          onPress={() => saveFile(equipmentAtStation.fileUrl())}
        />
        <Button
          title="Read a file"
          icon="file-outline"
          kind="plain"
          busy={read.isPending}
          onPress={() => input.current?.click()}
        />
      </View>
      <View aria-live="polite">
        {fault ? (
          <Notice kind="alarm" title="Nothing was read">
            {fault}
          </Notice>
        ) : null}
        {read.isError ? (
          <Notice kind="alarm" title="Nothing was read">
            {read.error.message}
          </Notice>
        ) : null}
        {read.isSuccess ? <Body>{`Read: ${counted(read.variables.pieces.length, 'piece')}.`}</Body> : null}
      </View>
    </View>
  );
}

import { useState } from 'react';
import { View } from 'react-native';
import type { z } from 'zod';
import { useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { FileButton } from '../../ui/file-button';
import { Row } from '../../ui/layout';
import { Notice } from '../../ui/page';
import { Body, Heading } from '../../ui/text';
import { saveFile } from '../log/save';

const MOST_FILE_OCTETS = 1_000_000;

/** What is in a file, or what is wrong with it. */
export function readFileText<S extends z.ZodType>(text: string, schema: S): { file: z.output<S> } | { fault: string } {
  let told: unknown;
  try {
    told = JSON.parse(text);
  } catch {
    return { fault: 'It is no JSON.' };
  }
  const read = schema.safeParse(told);
  if (read.success) return { file: read.data };
  const [first] = read.error.issues;
  const at = first?.path.join('.') ?? '';
  return { fault: at === '' ? (first?.message ?? '') : `${at}: ${first?.message}` };
}

interface FileBoxProps<S extends z.ZodType> {
  /** What the file is: `equipment`. */
  what: string;
  /** What it is good for, and what becomes of what is here already. */
  words: string;
  schema: S;
  fileUrl: () => string;
  /** Whether there is anything to save. */
  empty: boolean;
  take: (file: z.output<S>) => Promise<unknown>;
  /** What was read: `3 pieces`. */
  counted: (file: z.output<S>) => string;
  stale: readonly string[];
}

/** Something as a file, out and in. */
export function FileBox<S extends z.ZodType>({
  what,
  words,
  schema,
  fileUrl,
  empty,
  take,
  counted,
  stale,
}: FileBoxProps<S>) {
  const [fault, setFault] = useState<string | null>(null);
  const read = useChange(take, stale);
  const choose = async (chosen: File) => {
    read.reset();
    if (chosen.size > MOST_FILE_OCTETS) return setFault(`It is larger than 1 MB: this is no ${what}.`);
    const told = readFileText(await chosen.text(), schema);
    if ('fault' in told) return setFault(told.fault);
    setFault(null);
    read.mutate(told.file);
  };
  const title = `${what[0]!.toUpperCase()}${what.slice(1)} file`;
  const failed = fault ?? (read.isError ? read.error.message : null);
  return (
    <View>
      <Heading level={2}>As a file</Heading>
      <Body soft below={8}>
        {words}
      </Body>
      <Row wrap gap={8}>
        <Button
          title="Save as a file"
          icon="download-outline"
          kind="plain"
          disabled={empty ? 'There is nothing to save yet.' : false}
          onPress={() => saveFile(fileUrl())}
        />
        <FileButton
          title="Read a file"
          icon="file-outline"
          kind="plain"
          busy={read.isPending}
          label={title}
          accept="application/json,.json"
          onFile={(chosen) => void choose(chosen)}
        />
      </Row>
      <View aria-live="polite">
        {failed ? (
          <Notice kind="alarm" title="Nothing was read">
            {failed}
          </Notice>
        ) : null}
        {read.isSuccess ? <Body>{`Read: ${counted(read.variables)}.`}</Body> : null}
      </View>
    </View>
  );
}

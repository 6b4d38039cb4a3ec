import { abbreviations, USUAL_ABBREVIATIONS, type Settings } from '@tombolo/contract';
import type { Abbreviation } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../../../live/api';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Field } from '../../../ui/field';
import { Row } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';

const writtenOf = (list: readonly Abbreviation[]): string =>
  list.map(({ long, short }) => `${long} = ${short}`).join('\n');
const readOf = (text: string) =>
  text
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map((line) => {
      const at = line.lastIndexOf('=');
      return at < 0 ? { long: line, short: '' } : { long: line.slice(0, at), short: line.slice(at + 1) };
    });

/** What is written for what where a text is too long, for everybody at this station. */
export function Abbreviations({ settings }: { settings: Settings }) {
  const [text, setText] = useState(() => writtenOf(settings.abbreviations ?? USUAL_ABBREVIATIONS));
  const [tried, setTried] = useState(false);
  const keep = useChange(
    (list: Settings['abbreviations']) => api.changeSettings({ abbreviations: list }),
    ['settings'],
  );
  const read = abbreviations.safeParse(readOf(text));
  const [issue] = read.error?.issues ?? [];
  const line = issue?.path[0];
  const fault = !issue ? undefined : typeof line === 'number' ? `line ${line + 1}: ${issue.message}` : issue.message;
  return (
    <View>
      <Heading level={2}>Abbreviations</Heading>
      <Body soft below={8}>
        Where a text is too long, Write shows it with these in it, beside the long one.
      </Body>
      <Field
        label="Abbreviations"
        value={text}
        onChangeText={setText}
        multiline
        error={tried ? fault : undefined}
        hint="One a line, such as: message = msg"
      />
      {keep.isError ? (
        <Notice kind="alarm" title="Not kept; what you entered is still here">
          {keep.error.message}
        </Notice>
      ) : null}
      <Row wrap gap={8}>
        <Button
          title="Save the abbreviations"
          busy={keep.isPending}
          onPress={() => {
            setTried(true);
            if (read.success) keep.mutate(read.data);
          }}
        />
        <Button
          title="Back to the usual abbreviations"
          kind="plain"
          onPress={() => setText(writtenOf(USUAL_ABBREVIATIONS))}
        />
      </Row>
    </View>
  );
}

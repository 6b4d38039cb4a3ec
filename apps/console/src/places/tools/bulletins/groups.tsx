import type { Settings } from '@tombolo/contract';
import { readGroup } from '@tombolo/core';
import { useState } from 'react';
import { api } from '../../../live/api';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Field } from '../../../ui/field';
import { Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';

/** Groups whose bulletins are for this station. */
export function Groups({ groups }: { groups: Settings['bulletinGroups'] }) {
  const [text, setText] = useState((groups ?? []).join(', '));
  const keep = useChange(
    (next: Settings['bulletinGroups']) => api.changeSettings({ bulletinGroups: next }),
    ['settings'],
  );
  const read = text
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(readGroup);
  const wrong = read.find((group) => !group.ok);
  const names = read.flatMap((group) => (group.ok ? [group.value] : []));
  return (
    <Stack above={16}>
      <Field
        label="Groups that are for us"
        mono
        autoCapitalize="characters"
        value={text}
        onChangeText={setText}
        error={wrong && !wrong.ok ? wrong.error.reason : undefined}
        hint="With commas between; empty for all. What is for other groups is kept and put away at once; what is for everybody always comes."
      />
      {keep.isError ? (
        <Notice kind="alarm" title="Not kept; what you entered is still here">
          {keep.error.message}
        </Notice>
      ) : null}
      <Stack align="start">
        <Button
          title="Save the groups"
          kind="plain"
          busy={keep.isPending}
          disabled={wrong ? 'A group is not right yet.' : false}
          onPress={() => keep.mutate(names.length === 0 ? null : [...new Set(names)])}
        />
      </Stack>
    </Stack>
  );
}

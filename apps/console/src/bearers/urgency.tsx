import type { Precedence } from '@tombolo/contract';
import { useState } from 'react';
import { useDraft } from '../drafts/drafts';
import { Button } from '../ui/button';
import { Chips } from '../ui/chips';
import { Stack } from '../ui/layout';
import { Body, Heading } from '../ui/text';
import { TermHelp } from '../ui/terms';

const PRECEDENCES: readonly { readonly id: Precedence; readonly title: string }[] = [
  { id: 'routine', title: 'Routine' },
  { id: 'welfare', title: 'Welfare' },
  { id: 'priority', title: 'Priority' },
  { id: 'emergency', title: 'Emergency' },
];
/** How long it may be tried, minutes. */
const WITHIN = [
  { id: '', title: 'Until the tries are used up' },
  { id: '15', title: 'For 15 min' },
  { id: '60', title: 'For 1 h' },
  { id: '240', title: 'For 4 h' },
] as const;

/** How urgent what is written is, and – where this station tries by itself – how long it may be tried. */
export function Urgency({ triedHere = false }: { triedHere?: boolean }) {
  const { precedence, withinMin, change } = useDraft();
  const [open, setOpen] = useState(false);
  const within = WITHIN.find(({ id }) => id === String(withinMin ?? ''))?.id ?? '';
  if (!open && precedence === 'routine' && withinMin === null)
    return (
      <Stack align="start" below={16}>
        <Button
          title={triedHere ? 'Routine: set precedence or deadline' : 'Routine: set precedence'}
          icon="alert-outline"
          kind="plain"
          onPress={() => setOpen(true)}
        />
      </Stack>
    );
  return (
    <Stack gap={8} below={16}>
      <Heading level={2}>Precedence</Heading>
      <Chips
        label="Precedence"
        value={precedence}
        onChange={(chosen) => change({ precedence: chosen })}
        options={PRECEDENCES}
      />
      {precedence === 'emergency' ? (
        <Body>
          Somebody’s life or a great loss is at stake. It goes before everything else that waits here, also between two
          texts on a busy channel. Where a telephone works, the emergency number comes first: this is no rescue service.
        </Body>
      ) : null}
      <TermHelp term="precedence" />
      {triedHere ? (
        <>
          <Heading level={2}>How long to try</Heading>
          <Chips
            label="Try"
            value={within}
            onChange={(id) => change({ withinMin: id === '' ? null : Number(id) })}
            options={WITHIN}
          />
          {withinMin === null ? null : (
            <Body soft>
              Counted from the moment that you send it. After that no further try begins, and it says so.
            </Body>
          )}
        </>
      ) : null}
    </Stack>
  );
}

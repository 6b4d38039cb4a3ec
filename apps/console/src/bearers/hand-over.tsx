import { writeMeantFor } from '@tombolo/core';
import type { DraftView } from '../drafts/draft';
import { useDraft } from '../drafts/drafts';
import { Button } from '../ui/button';
import { Stack } from '../ui/layout';
import { Body, Mono } from '../ui/text';

/** What goes out of a text that is written: where somebody brings it to another, that name stands in front. A name alone says nothing. */
export const asItGoes = ({ handOver }: Pick<DraftView, 'handOver'>, body: string): string =>
  handOver && body.trim() !== '' ? writeMeantFor(handOver.to, body) : body;

/** Behind what the button says: `, to be brought to Ferry Office`. */
export const broughtWords = ({ handOver }: Pick<DraftView, 'handOver'>): string =>
  handOver ? `, to be brought to ${handOver.to}` : '';

/** Who is to bring it to whom, as it goes out, and what is not known then; nothing where nobody has to. */
export function HandOver() {
  const draft = useDraft();
  const { handOver, body } = draft;
  if (!handOver) return null;
  const { by, to } = handOver;
  return (
    <Stack role="group" aria-label="By hand" below={12} gap={4} align="start">
      <Body>
        {`${by} is to bring it to ${to}. What is proved here ends with ${by}: ask for a word when it is there.`}
      </Body>
      {body.trim() === '' ? null : (
        <>
          <Body soft>It goes out as</Body>
          <Mono>{asItGoes(draft, body)}</Mono>
        </>
      )}
      <Button
        title={`Send it to ${by} alone`}
        kind="plain"
        onPress={() => draft.change({ handOver: null, whom: by, addressee: draft.addressee })}
      />
    </Stack>
  );
}

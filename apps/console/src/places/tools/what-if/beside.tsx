import type { ReactNode } from 'react';
import { Stack } from '../../../ui/layout';
import { Body, Heading } from '../../../ui/text';
import type { KeptPlan } from './kept-plans';

interface BesideProps {
  /** Names of the plans that were put beside each other. */
  chosen: readonly string[];
  kept: readonly KeptPlan[];
  children: ReactNode;
}

/** Plans beside each other, with those named that are not kept here. */
export function Beside({ chosen, kept, children }: BesideProps) {
  return (
    <Stack above={24}>
      <Heading level={2}>Beside each other</Heading>
      {chosen
        .filter((name) => kept.every((one) => one.name !== name))
        .map((name) => (
          <Body key={name}>{`“${name}” is not kept on this device, so it does not stand beside the others.`}</Body>
        ))}
      {children}
    </Stack>
  );
}

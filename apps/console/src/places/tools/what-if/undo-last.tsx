import { Button } from '../../../ui/button';
import { Stack } from '../../../ui/layout';

interface UndoLastProps {
  /** What was thought before the last change; null for none. */
  undone: string | null;
  /** What is thought now. */
  now: string;
  back: (undone: string) => void;
}

/** Takes the last change back, where there is one. */
export function UndoLast({ undone, now, back }: UndoLastProps) {
  return undone === null || undone === now ? null : (
    <Stack align="start">
      <Button title="Undo" about="the last change" icon="undo" kind="plain" onPress={() => back(undone)} />
    </Stack>
  );
}

import { useState } from 'react';
import { Button } from './button';

interface RemoveButtonProps {
  /** What goes, by name. */
  about: string;
  title?: string;
  busy?: boolean;
  onRemove: () => void;
}

/** What cannot be taken back is asked for twice. The first button becomes the way out: pressed twice by mistake, it removes nothing. */
export function RemoveButton({ about, title = 'Remove', busy, onRemove }: RemoveButtonProps) {
  const [asked, setAsked] = useState(false);
  return (
    <>
      <Button title={asked ? 'Keep it' : title} about={about} kind="plain" onPress={() => setAsked(!asked)} />
      {asked ? <Button title={`${title} for good`} about={about} kind="alarm" busy={busy} onPress={onRemove} /> : null}
    </>
  );
}

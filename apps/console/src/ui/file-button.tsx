import { useRef, type ComponentProps } from 'react';
import { Button } from './button';

type FileButtonProps = Omit<ComponentProps<typeof Button>, 'onPress'> & {
  /** What the file is, for whoever does not see the button beside it. */
  readonly label: string;
  /** Kinds of files, as HTML names them; without it any. */
  readonly accept?: string;
  readonly onFile: (file: File) => void;
};

/** A button that asks for a file. The same one can be chosen again: it may have changed. */
export function FileButton({ label, accept, onFile, ...button }: FileButtonProps) {
  const input = useRef<HTMLInputElement | null>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={label}
        style={{ display: 'none' }}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) onFile(file);
        }}
      />
      <Button {...button} onPress={() => input.current?.click()} />
    </>
  );
}

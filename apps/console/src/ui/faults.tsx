import type { FieldErrors, FieldValues } from 'react-hook-form';
import { Notice } from './page';
import { Body } from './text';

/** Takes the focus to the first field that is marked, when the marks are drawn. */
export const toFirstFault = (): void => {
  requestAnimationFrame(() => document.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus());
};

type Labels = Readonly<Record<string, string>>;

/** What each field says, with what the field is called in front. */
function messagesOf(errors: unknown, labels: Labels, name = ''): string[] {
  if (typeof errors !== 'object' || errors === null) return [];
  const { message } = errors as { message?: unknown };
  if (typeof message === 'string') return [labels[name] ? `${labels[name]}: ${message}` : message];
  return Object.entries(errors).flatMap(([part, error]) => messagesOf(error, labels, part));
}

interface FaultsProps<T extends FieldValues> {
  errors: FieldErrors<T>;
  /** Whether it was pressed already. */
  tried: boolean;
  /** What the fields are called. */
  labels: Labels;
}

/** After a press that was refused: how many fields want another look, and what each says. */
export function Faults<T extends FieldValues>({ errors, tried, labels }: FaultsProps<T>) {
  const messages = messagesOf(errors, labels);
  if (!tried || messages.length === 0) return null;
  return (
    <Notice
      kind="alarm"
      title={`Not saved: ${messages.length === 1 ? 'one field wants' : `${messages.length} fields want`} another look. What you entered is kept.`}
    >
      {messages.map((message, index) => (
        <Body key={index}>{message}</Body>
      ))}
    </Notice>
  );
}

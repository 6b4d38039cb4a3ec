import type { FieldErrors, FieldValues } from 'react-hook-form';
import { Notice } from './page';
import { Body } from './text';

/** Takes the focus to the first field that is marked, when the marks are drawn. */
export const toFirstFault = (): void => {
  requestAnimationFrame(() => document.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus());
};

function messagesOf(errors: unknown): string[] {
  if (typeof errors !== 'object' || errors === null) return [];
  const { message } = errors as { message?: unknown };
  return typeof message === 'string' ? [message] : Object.values(errors).flatMap(messagesOf);
}

/** After a press that was refused: how many fields want another look, and what each says. */
export function Faults<T extends FieldValues>({ errors, tried }: { errors: FieldErrors<T>; tried: boolean }) {
  const messages = messagesOf(errors);
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

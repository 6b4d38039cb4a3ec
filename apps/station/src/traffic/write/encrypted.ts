import { looksEncrypted } from '@tombolo/core';
import { ProblemError } from '../../problem-error';

/** Nothing with a hidden meaning goes out on an amateur band. */
export function refuseEncrypted(text: string): void {
  if (looksEncrypted(text))
    throw new ProblemError(
      422,
      'encrypted',
      'It looks encrypted',
      'Nothing with a hidden meaning goes out on an amateur band (in the US 47 CFR 97.113(a)(4)). Your text is kept; write it in the clear.',
    );
}

/** A ZIP whose first member is encrypted, or a file whose name says that it is. */
function isEncryptedFile(name: string, content: Buffer): boolean {
  if (/\.(gpg|pgp|asc|p7m|age)$/i.test(name)) return true;
  return content.length > 8 && content.readUInt32BE(0) === 0x504b0304 && (content.readUInt16LE(6) & 1) === 1;
}

/** The same of a file that comes along. */
export function refuseEncryptedFile(name: string, content: Buffer): void {
  if (isEncryptedFile(name, content))
    throw new ProblemError(
      422,
      'encrypted',
      'An attachment is encrypted',
      `“${name}” cannot be read by everybody, and nothing encrypted goes out on an amateur band. Your mail is kept.`,
    );
}

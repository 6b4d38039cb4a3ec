import { createHash } from 'node:crypto';

/**
 * By which a second copy over another way is recognised: what calls itself the same **and** is the same. An identifier alone proves nothing –
 * anybody can use it again – and may be of any length.
 */
export const copyKey = (kind: 'mail' | 'board' | 'mesh', identifier: string, content: readonly string[]): string => {
  const digest = createHash('sha256').update(identifier);
  for (const part of content) digest.update('\u0000').update(part);
  return `${kind}:${digest.digest('hex').slice(0, 40)}`;
};

import { octetsOfText } from '../octets';
import { fail, ok, type Parsed } from '../result';

/** Octets of UTF-8 that one packet of the mesh carries as text. */
export const MOST_MESH_OCTETS = 180;

/** Why a text cannot go into the mesh. */
export function checkMeshText(text: string): Parsed<string> {
  if (text.trim() === '') return fail(0, 'the text is empty');
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if ((code < 0x20 && code !== 0x0a) || code === 0x7f) return fail(i, 'control characters cannot be sent');
  }
  const octets = octetsOfText(text).length;
  if (octets > MOST_MESH_OCTETS)
    return fail(MOST_MESH_OCTETS, `${octets} of ${MOST_MESH_OCTETS} octets: shorten the text or send it in parts`);
  return ok(text);
}

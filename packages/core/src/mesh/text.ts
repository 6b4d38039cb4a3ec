import { octetsOfText } from '../octets';
import { fail, ok, type Parsed } from '../result';
import { MESH_TEXT_HEAD_OCTETS } from './content';
import { MESH_HEADER_OCTETS, MOST_FRAME_OCTETS } from './frame';
import { SEAL_OCTETS } from './seal';

/** Octets on the air of a text: header, seal, kind, number and the text's own UTF-8. */
export const meshTextFrameOctets = (text: string, sealed: boolean): number =>
  MESH_HEADER_OCTETS + (sealed ? SEAL_OCTETS : 0) + MESH_TEXT_HEAD_OCTETS + octetsOfText(text).length;

/** Octets of UTF-8 that one packet carries as text. */
export const mostMeshTextOctets = (sealed: boolean): number => MOST_FRAME_OCTETS - meshTextFrameOctets('', sealed);

/** Why a text cannot go into the mesh. */
export function checkMeshText(text: string, sealed: boolean): Parsed<string> {
  if (text.trim() === '') return fail(0, 'the text is empty');
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if ((code < 0x20 && code !== 0x0a) || code === 0x7f) return fail(i, 'control characters cannot be sent');
  }
  const octets = octetsOfText(text).length;
  const most = mostMeshTextOctets(sealed);
  if (octets > most) return fail(most, `${octets} of ${most} octets: shorten the text or send it in parts`);
  return ok(text);
}

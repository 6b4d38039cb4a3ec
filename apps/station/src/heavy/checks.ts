import { gunzipSync } from 'node:zlib';
import { geoJson } from '@tombolo/contract';
import { readTileArchiveHead } from '@tombolo/core';

/** Why a file is no map that can be shown; null when it is one. */
export type Verdict = string | null;

/** RFC 7946, as far as it is drawn here. */
export function checkGeoJson(octets: Uint8Array): Verdict {
  let value: unknown;
  try {
    value = JSON.parse(Buffer.from(octets.buffer, octets.byteOffset, octets.byteLength).toString('utf8'));
  } catch (error) {
    return `It is not JSON: ${(error as Error).message.slice(0, 200)}`;
  }
  const result = geoJson.safeParse(value);
  if (result.success) return null;
  const [issue] = result.error.issues;
  return `It is not GeoJSON (RFC 7946): ${issue?.path.join('.') || 'the file'}: ${issue?.message ?? 'not understood'}`;
}

/** A directory of 16 kB that unpacks to more than this holds no real tiles. */
const MOST_DIRECTORY_OCTETS = 4 * 1024 * 1024;

/** A tile archive, from its first octets: that what it claims lies within it, and that its first directory can be opened. */
export function checkTileArchive(beginning: Uint8Array, fileOctets: number): Verdict {
  const head = readTileArchiveHead(beginning, fileOctets);
  if (!head.ok) return `${head.error.reason[0]!.toUpperCase()}${head.error.reason.slice(1)}.`;
  const { rootOffset, rootOctets, internalCompression } = head.value;
  if (internalCompression === 1) return null;
  try {
    gunzipSync(beginning.subarray(rootOffset, rootOffset + rootOctets), { maxOutputLength: MOST_DIRECTORY_OCTETS });
    return null;
  } catch {
    return 'Its root directory cannot be opened, or claims to be larger than any is.';
  }
}

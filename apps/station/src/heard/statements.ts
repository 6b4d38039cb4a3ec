import { decodeMeshFrame, elementForm, innermostLayers, packetStatements, type Packet } from '@tombolo/core';
import type { Copy, PathStatement, ReceptionForm } from '@tombolo/contract';
import { connectionOf, packetOf, understandRoad } from '../ingest/understand';
import { rowsOf, storable, type Queries } from '../store/database';

/** A reception as it is kept: the octets, and whether a radio, a feed or a recording brought them. */
export interface KeptReception {
  readonly raw: Buffer;
  readonly form: ReceptionForm;
  readonly import_id: string | null;
}

/** The packet of a kept reception, with its wrappings; from the octets, since text has lost which elements were used. */
export function keptPacket({ raw, form, import_id }: KeptReception): Packet | null {
  const packet = packetOf({ raw, form, importId: import_id });
  return packet.ok ? packet.value : (connectionOf({ raw, form })?.head ?? null);
}

/** How a kept reception came, in short and in words, and the line of it. */
export function told({ raw, form, import_id }: KeptReception): {
  readonly how: Copy['how'];
  readonly via: string[];
  readonly words: string;
  readonly line: string;
  readonly hops: number | null;
} {
  const { path, mesh, words, line } = understandRoad({ raw, form, importId: import_id });
  return {
    how: path?.how ?? (mesh ? (mesh.hops === 0 ? 'direct' : 'relayed') : null),
    via: [...(path?.via ?? [])],
    words,
    line: storable(line),
    hops: mesh?.hops ?? null,
  };
}

/** What the paths of receptions tell, one list for each. */
export async function statementsOf(
  queries: Queries,
  receptions: readonly KeptReception[],
  own: string | null,
): Promise<PathStatement[][]> {
  const packets = receptions.map(keptPacket);
  const stations = await stationsAmong(queries, packets);
  return packets.map((packet, i) => {
    if (receptions[i]!.form === 'mesh') return meshStatements(receptions[i]!.raw);
    if (!packet) return [];
    const receiver =
      receptions[i]!.form === 'ax25' ? (receptions[i]!.import_id === null ? (own ?? 'us') : 'the recorder') : null;
    return packetStatements(packet, { receiver, isStation: (call) => stations.has(call) }).map(
      ({ words, certain, facts }) => ({ words, certain, facts }),
    );
  });
}

/** What a frame of a mesh tells of its way. */
function meshStatements(raw: Uint8Array): PathStatement[] {
  const frame = decodeMeshFrame(raw);
  if (!frame.ok) return [];
  const { hops, hopsLeft } = frame.value;
  const facts = [{ from: 'packet' as const, words: `hops so far: ${hops}, hops left: ${hopsLeft}` }];
  return hops === 0
    ? [{ words: 'It says that it comes from the sender itself.', certain: true, facts }]
    : [
        {
          words: `It says that ${hops} ${hops === 1 ? 'node' : 'nodes one after the other'} repeated it.`,
          certain: true,
          facts,
        },
        {
          words: 'Which nodes they were is not told.',
          certain: true,
          facts: [{ from: 'standard', words: 'nodes of the mesh do not sign what they repeat' }],
        },
      ];
}

/** Words in paths without the form of a call sign that were heard as sources of their own. */
async function stationsAmong(queries: Queries, packets: readonly (Packet | null)[]): Promise<Set<string>> {
  const words = new Set<string>();
  for (const packet of packets)
    for (const { path } of packet ? innermostLayers(packet) : [])
      for (const { call } of path) if (elementForm(call) === 'unknown') words.add(call);
  if (words.size === 0) return new Set();
  const rows = await rowsOf<{ call: string }>(
    queries,
    `select call from station where call = any($1) and (state->>'packets')::int > 0`,
    [[...words]],
  );
  return new Set(rows.map(({ call }) => call));
}

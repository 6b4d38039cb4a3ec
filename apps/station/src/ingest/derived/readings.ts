import { learnMeaning, NO_MEANING, weatherOf, type TelemetryMeaning, type Weather } from '@tombolo/core';
import { inBlocks, rowsOf, type Queries } from '../../store/database';
import { storableJson } from '../../store/storable-json';
import type { Stored } from '../store-heard';
import { objectKey } from './stations';

interface WeatherRow {
  readonly call: string;
  readonly packetId: string;
  readonly weather: Weather;
}

interface TelemetryRow {
  readonly call: string;
  readonly packetId: string;
  readonly sequence: string;
  readonly analog: readonly (number | null)[];
  readonly bits: string | null;
}

/** What weather stations measured and what telemetry told, and what its channels mean. */
export interface ReadingsKept {
  /** Calls that measured live. */
  readonly live: ReadonlySet<string>;
  add(stored: readonly Stored[]): void;
  write(queries: Queries): Promise<void>;
}

export function createReadings(): ReadingsKept {
  const live = new Set<string>();
  let weather: WeatherRow[] = [];
  let telemetry: TelemetryRow[] = [];
  let definitions: Stored[] = [];
  const take = (row: Stored) => {
    const { information, packet, heard } = row.understood;
    if (!row.isNewPacket || !information || !packet || row.packetId === null) return;
    const call =
      information.kind === 'object' || information.kind === 'item'
        ? objectKey(information.kind, information.name)
        : packet.source;
    const at = { call, packetId: row.packetId };
    const measured = weatherOf(information);
    if (heard.importId === null && (measured || 'telemetry' in information || information.kind === 'telemetry'))
      live.add(call);
    if (measured) weather.push({ ...at, weather: measured });
    if (information.kind === 'telemetry')
      telemetry.push({ ...at, sequence: information.sequence, analog: information.analog, bits: information.bits });
    else if ('telemetry' in information && information.telemetry) {
      const { sequence, analog, bits } = information.telemetry;
      telemetry.push({ ...at, sequence: String(sequence), analog, bits });
    } else if (information.kind === 'telemetry definition') definitions.push(row);
  };
  return {
    live,
    add: (stored) => stored.forEach(take),
    async write(queries) {
      // Taken first: more may come while they are written.
      const taken = { weather, telemetry, definitions };
      [weather, telemetry, definitions] = [[], [], []];
      await inBlocks(taken.weather, (block) => insertWeather(queries, block));
      await inBlocks(taken.telemetry, (block) => insertTelemetry(queries, block));
      await learn(queries, taken.definitions);
    },
  };
}

async function insertWeather(queries: Queries, rows: readonly WeatherRow[]): Promise<void> {
  if (rows.length === 0) return;
  await queries.query(
    `insert into weather_reading (call, packet_id, weather)
     select value->>'call', (value->>'packetId')::bigint, value->'weather' from jsonb_array_elements($1::jsonb)
     on conflict do nothing`,
    // As one document: quoting each as an element of an array takes longer.
    [storableJson(rows)],
  );
}

async function insertTelemetry(queries: Queries, rows: readonly TelemetryRow[]): Promise<void> {
  if (rows.length === 0) return;
  // As JSON, since arrays of unlike length cannot be unnested.
  await queries.query(
    `insert into telemetry_reading (call, packet_id, sequence, analog, bits)
     select * from jsonb_to_recordset($1::jsonb) as r (call text, packet_id bigint, sequence text, analog float8[], bits text)
     on conflict do nothing`,
    [
      storableJson(
        rows.map(({ call, packetId, sequence, analog, bits }) => ({
          call,
          packet_id: packetId,
          sequence,
          analog,
          bits,
        })),
      ),
    ],
  );
}

/** Definitions are addressed to the station that they are about. Only its own count: nobody else may rename its channels. */
async function learn(queries: Queries, stored: readonly Stored[]): Promise<void> {
  for (const { understood } of stored) {
    const { information, packet, heard } = understood;
    if (information?.kind !== 'telemetry definition' || information.station !== packet!.source) continue;
    const [known] = await rowsOf<{ meaning: TelemetryMeaning; changed_at: Date }>(
      queries,
      'select meaning, changed_at from telemetry_meaning where call = $1',
      [information.station],
    );
    if (known && known.changed_at.getTime() > heard.heardAtMs) continue;
    await queries.query(
      `insert into telemetry_meaning (call, meaning, changed_at) values ($1, $2, $3)
       on conflict (call) do update set meaning = excluded.meaning, changed_at = excluded.changed_at`,
      [
        information.station,
        storableJson(learnMeaning(known?.meaning ?? NO_MEANING, information.definition)),
        new Date(heard.heardAtMs),
      ],
    );
  }
}

import type { Settings } from '@tombolo/contract';
import { rowsOf, type Queries } from '../store/database';
import { repeatersOfOurs } from '../store/evidence';
import { FROM, MOST_STATIONS, SELECT, stationView, VERSION, type StationRow } from './stations';

interface Told {
  readonly version: string;
  readonly json: string;
}

const ORDER = 'order by s.last_at desc limit $1';

/**
 * All that `listStations` gives, as JSON. What was told of a station is told again until its row, its note, our position or who repeats us is
 * another: each console that opens asks for thousands.
 */
export function createAllStations(): (queries: Queries, settings: Settings) => Promise<string> {
  let last: { readonly under: string; readonly told: ReadonlyMap<string, Told> } | null = null;
  return async (queries, settings) => {
    const repeaters = await repeatersOfOurs(queries);
    const under = JSON.stringify([settings.position, [...repeaters].sort()]);
    const word = (row: StationRow): [string, Told] => [
      row.state.call,
      { version: row.version, json: JSON.stringify(stationView(row, settings, repeaters)) },
    ];
    const told =
      last?.under === under
        ? await toldAnew(queries, last.told, word)
        : new Map((await rowsOf<StationRow>(queries, `${SELECT} ${ORDER}`, [MOST_STATIONS])).map(word));
    last = { under, told };
    return `[${Array.from(told.values(), ({ json }) => json).join(',')}]`;
  };
}

/** What was told, with the rows of another version worded anew, in the order of now. */
async function toldAnew(
  queries: Queries,
  before: ReadonlyMap<string, Told>,
  word: (row: StationRow) => [string, Told],
): Promise<ReadonlyMap<string, Told>> {
  const rows = await rowsOf<{ call: string; version: string }>(queries, `select s.call, ${VERSION} ${FROM} ${ORDER}`, [
    MOST_STATIONS,
  ]);
  const isKnown = ({ call, version }: { call: string; version: string }) => before.get(call)?.version === version;
  const other = rows.flatMap((row) => (isKnown(row) ? [] : row.call));
  const anew = other.length === 0 ? [] : await rowsOf<StationRow>(queries, `${SELECT} where s.call = any($1)`, [other]);
  const fresh = new Map(anew.map(word));
  return new Map(
    rows.flatMap((row) => {
      // One that went between the two questions is in neither.
      const told = isKnown(row) ? before.get(row.call) : fresh.get(row.call);
      return told ? [[row.call, told]] : [];
    }),
  );
}

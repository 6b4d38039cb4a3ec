import type { StationDetail } from '@tombolo/contract';
import { bearingBetween, counted, distanceInWords, type DistanceUnit } from '@tombolo/core';
import { exportUrl } from '../../../live/exports';
import { useTimeWords } from '../../../live/preferences';
import { Button } from '../../../ui/button';
import { Row, Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { saveFile } from '../../log/save';

const FORMATS = ['gpx', 'kml', 'geojson'] as const;

/** Where it was in the last day, what was not believed of it, and the files of it. */
export function TrailCard({ station, unit, now }: { station: StationDetail; unit: DistanceUnit; now: number }) {
  const timeWords = useTimeWords();
  const points = station.trail.filter(({ fault }) => fault === null);
  const doubted = station.trail.filter(({ fault }) => fault !== null);
  if (station.latitude === null) return null;
  let km = 0;
  for (let i = 1; i < points.length; i++) km += bearingBetween(points[i - 1]!, points[i]!).distanceKm;
  const [first] = points;
  return (
    <Stack above={16} gap={6}>
      <Heading level={2}>Trail</Heading>
      <Body>
        {points.length > 1
          ? `${counted(points.length, 'place')} since ${timeWords(first!.at, now)}, ${distanceInWords(km, unit)} in all.`
          : 'It has not moved in the last 24 hours.'}
      </Body>
      {doubted.length > 0 ? (
        <Notice
          title={
            doubted.length === 1
              ? 'One place was kept off the trail'
              : `${doubted.length} places were kept off the trail`
          }
        >
          {`It cannot have got there in the time, as at ${timeWords(doubted.at(-1)!.at, now)}. A place that a second report confirms is believed.`}
        </Notice>
      ) : null}
      <Row wrap gap={8}>
        {FORMATS.map((format) => (
          <Button
            key={format}
            title={`Save as ${format === 'geojson' ? 'GeoJSON' : format.toUpperCase()}`}
            about={`place and trail of ${station.name}`}
            icon="download-outline"
            kind="plain"
            onPress={() => saveFile(exportUrl(`stations.${format}`, { call: station.call, hours: 24 }))}
          />
        ))}
      </Row>
    </Stack>
  );
}

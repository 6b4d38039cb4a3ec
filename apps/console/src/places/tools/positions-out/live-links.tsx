import { View } from 'react-native';
import { exportUrl, type ExportFile } from '../../../live/exports';
import { Stack } from '../../../ui/layout';
import { Body, Heading, Mono } from '../../../ui/text';
import { Link } from '../../../ui/link';
import { saveFile } from '../../log/save';

const FILES = [
  { file: 'stations.geojson', words: 'GeoJSON (RFC 7946)' },
  { file: 'stations.gpx', words: 'GPX 1.1' },
  { file: 'stations.kml', words: 'KML 2.2' },
] as const satisfies readonly { file: ExportFile; words: string }[];

/** Addresses that a program which draws maps can ask again and again. */
export function LiveLinks() {
  return (
    <View>
      <Heading level={2}>Programs that draw maps</Heading>
      <Body soft below={8}>
        These addresses give what is known at the moment they are asked, with the trails of the last 24 h: let the
        program ask again every minute or so. They answer on this machine alone.
      </Body>
      <View role="list" aria-label="Addresses">
        {FILES.map(({ file, words }) => {
          const href = `${globalThis.location?.origin ?? ''}${exportUrl(file)}`;
          return (
            <Stack key={file} role="listitem" below={8}>
              <Body bold>{words}</Body>
              <Link href={href} go={() => saveFile(href)} minHeight={48} justify="center">
                <Mono>{href}</Mono>
              </Link>
            </Stack>
          );
        })}
      </View>
    </View>
  );
}

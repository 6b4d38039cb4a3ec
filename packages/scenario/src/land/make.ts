import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { makeFeatures } from './features';
import { makeHeights } from './heights';
import { makeTile, TILE_NAME } from './tile';

/** Writes the map of the district anew: `npm run make-map`. The seed is fixed, so the files change only with the generator. */
const folder = join(__dirname, '../../map');
const heights = makeHeights();
mkdirSync(folder, { recursive: true });
writeFileSync(join(folder, 'hollin-sound.geojson'), `${JSON.stringify(makeFeatures(heights))}\n`);
writeFileSync(join(folder, 'heights.json'), `${JSON.stringify(heights)}\n`);
writeFileSync(join(folder, `${TILE_NAME}.gz`), gzipSync(makeTile(heights), { level: 9 }));

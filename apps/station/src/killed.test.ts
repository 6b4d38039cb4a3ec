import { FAILPOINTS } from './store/failpoints';
import { hitOf, killTrial } from './testing/kill-rig';

/** The benchmark does the same many times over, with other seeds. */
const SEED = 1;

describe('a station killed before and after every write and every send', () => {
  it.concurrent.each(FAILPOINTS)(
    'at “%s” loses nothing, shows nothing twice, leaves nothing hanging, and claims nothing that did not happen',
    async (failpoint) => {
      const trial = await killTrial(failpoint, hitOf(failpoint, SEED));
      expect(trial).toMatchObject({ killed: true, lost: [], doubled: [], stuck: [], overClaimed: [] });
    },
    120_000,
  );
});

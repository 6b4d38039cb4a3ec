import { beacon } from './beacon';
import { chart } from './chart';
import { connected } from './connected';
import { decode } from './decode';
import { lineOf, ratioOf, type Figure } from './figure';
import { everybody } from './everybody';
import { flood } from './flood';
import { hostile } from './hostile';
import { ingest } from './ingest';
import { killed } from './killed';
import { large } from './large';
import { linear } from './linear';
import { logSearch } from './log-search';
import { longLists } from './long-lists';
import { mesh } from './mesh';
import { ready } from './ready';
import { answers } from './services';
import { season } from './season/season';
import { secondConsole } from './second-console';
import { start } from './start';
import { truth } from './truth/truth';
import { ways } from './ways';
import { whatIf } from './what-if';

const BENCHMARKS: Readonly<Record<string, () => Promise<Figure[]>>> = {
  decode,
  flood,
  ingest,
  logSearch,
  secondConsole,
  start,
  longLists,
  chart,
  connected,
  mesh,
  ready,
  beacon,
  hostile,
  killed,
  large,
  linear,
  truth,
  answers,
  ways,
  everybody,
  whatIf,
  season,
};

/** Prints every figure with the ratio to its goal; names on the command line choose some. */
async function main(): Promise<void> {
  const chosen = process.argv.slice(2);
  let missed = 0;
  for (const [name, measure] of Object.entries(BENCHMARKS)) {
    if (chosen.length > 0 && !chosen.includes(name)) continue;
    for (const figure of await measure()) {
      console.log(lineOf(figure));
      if (ratioOf(figure) < 1) missed++;
    }
  }
  process.exit(missed === 0 ? 0 : 1);
}

void main().catch((error: unknown) => {
  console.error(error);
  process.exit(2);
});

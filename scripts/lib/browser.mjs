import { chromium } from 'playwright-core';

/** Debian's Chromium without a screen: the build that draws no windows, which does the same with less of the processor. */
const PROGRAM = '/usr/bin/chromium-headless-shell';

/** Without a sandbox, which root has not, and without looking for the internet. */
const FLAGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  // Letters as wide as a browser with windows draws them.
  '--font-render-hinting=none',
];

/** Starts the browser of the tests, the benchmarks and the pictures. */
export const launchBrowser = (moreFlags = []) =>
  chromium.launch({ executablePath: PROGRAM, args: [...FLAGS, ...moreFlags] });

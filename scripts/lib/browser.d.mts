import type { Browser } from 'playwright-core';

export function launchBrowser(moreFlags?: readonly string[]): Promise<Browser>;

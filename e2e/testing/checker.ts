import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import { SIZES } from './rig';

interface AxeReport {
  readonly violations: readonly {
    readonly id: string;
    readonly nodes: readonly { readonly html: string; readonly failureSummary?: string }[];
  }[];
}
const AXE = readFileSync(require.resolve('axe-core/axe.min.js'), 'utf8');

/** What a general accessibility checker (axe-core) finds: against WCAG 2.2 AA, and by its rules of good practice. */
async function violations(page: Page, runOnly: readonly string[]): Promise<string[]> {
  // It is large: once in a page is enough.
  if (await page.evaluate(() => !('axe' in window))) await page.evaluate(AXE);
  return page.evaluate(async (only) => {
    const { axe } = window as unknown as { axe: { run(root: Document, options: object): Promise<AxeReport> } };
    const { violations } = await axe.run(document, { runOnly: only, resultTypes: ['violations'], preload: false });
    return violations.flatMap((violation) =>
      violation.nodes.map(
        (node) => `${violation.id}: ${node.html.slice(0, 160)} – ${node.failureSummary?.split('\n')[1] ?? ''}`,
      ),
    );
  }, runOnly);
}

/** To the next light, by the switch that every place has; what is open stays open. */
async function nextLight(page: Page): Promise<string> {
  const before = await page.evaluate(() => document.documentElement.dataset.light);
  await page.evaluate(() => document.querySelector<HTMLElement>('[aria-label^="Light: "]')!.click());
  await page.waitForFunction((light) => document.documentElement.dataset.light !== light, before);
  return page.evaluate(() => document.documentElement.dataset.light ?? '');
}

/**
 * By the light that is on; on a phone also by the two others what depends on the light, and then back. The paints of a light do not depend on
 * the size, so that a wide screen shows none that the phone does not.
 */
export async function accessibilityFaults(page: Page): Promise<string[]> {
  const faults = await violations(page, ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']);
  if (page.viewportSize()!.width !== SIZES.phone.width) return faults;
  for (let turn = 0; turn < 3; turn++) {
    const light = await nextLight(page);
    if (turn < 2)
      faults.push(...(await violations(page, ['color-contrast'])).map((fault) => `by the light of ${light}: ${fault}`));
  }
  return faults;
}

/** What can be pressed and is smaller than a gloved finger: 48 px either way, unless it stands in running text. */
export const tooSmall = (page: Page): Promise<string[]> =>
  page.evaluate(() =>
    Array.from(
      document.querySelectorAll<HTMLElement>('a[href], button, input, textarea, [role=checkbox], [role=radio]'),
    ).flatMap((element) => {
      const { width, height, right, bottom } = element.getBoundingClientRect();
      const seen = width > 0 && height > 0 && right > 0 && bottom > 0 && !element.closest('.ol-control');
      return seen && (width < 47.5 || height < 47.5)
        ? [`${Math.round(width)} × ${Math.round(height)} px: ${element.outerHTML.slice(0, 120)}`]
        : [];
    }),
  );

/** Loaded, with its heading. */
export const settled = (page: Page) =>
  page.waitForFunction(
    () =>
      document.querySelector('h1, [role=heading][aria-level="1"]') !== null &&
      !document.body.innerText.includes('Loading '),
  );

/** All that a page says, to the eye and to the ear, in lines. */
export const words = (page: Page): Promise<string[]> =>
  page.evaluate(() => [
    ...document.body.innerText.split('\n'),
    ...Array.from(document.querySelectorAll('[aria-label], [aria-description], [title], [placeholder]')).flatMap(
      (element) =>
        ['aria-label', 'aria-description', 'title', 'placeholder'].flatMap((name) => element.getAttribute(name) ?? []),
    ),
    document.title,
  ]);

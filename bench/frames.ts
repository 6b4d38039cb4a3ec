import type { Page } from 'playwright-core';

/** Frames a second while something is done, by the time stamps of the browser's own animation frames. */
export async function framesDuring(page: Page, act: () => Promise<void>): Promise<number> {
  await page.evaluate(() => {
    const frames: number[] = [];
    const step = (at: number) => {
      frames.push(at);
      requestAnimationFrame(step);
    };
    requestAnimationFrame(step);
    (globalThis as unknown as { frames: number[] }).frames = frames;
  });
  const first = await page.evaluate(() => performance.now());
  await act();
  const [frames, last] = await page.evaluate(
    () => [(globalThis as unknown as { frames: number[] }).frames, performance.now()] as const,
  );
  const inside = frames.filter((at) => at >= first && at <= last);
  return (inside.length - 1) / ((inside.at(-1)! - inside[0]!) / 1000);
}

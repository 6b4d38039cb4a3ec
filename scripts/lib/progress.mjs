/** One line a step, with the time it took; long steps show that they go on. */
export async function step(title, work) {
  const started = Date.now();
  process.stdout.write(`  ${title} …`);
  const dots = setInterval(() => process.stdout.write(' …'), 10_000);
  try {
    const result = await work();
    process.stdout.write(` done (${((Date.now() - started) / 1000).toFixed(1)} s)\n`);
    return result;
  } catch (error) {
    process.stdout.write(' failed\n');
    throw error;
  } finally {
    clearInterval(dots);
  }
}

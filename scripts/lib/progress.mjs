let underWay = 0;

/** One line a step, with the time it took; long steps show that they go on. Of steps beside each other each tells its end by name. */
export async function step(title, work) {
  const started = Date.now();
  let alone = ++underWay === 1;
  process.stdout.write(`${alone ? '' : '\n'}  ${title} …`);
  const dots = setInterval(() => {
    alone &&= underWay === 1;
    process.stdout.write(' …');
  }, 10_000);
  const end = (how) => {
    alone &&= underWay === 1;
    process.stdout.write(alone ? ` ${how}\n` : `\n  ${title}: ${how}\n`);
  };
  try {
    const result = await work();
    end(`done (${((Date.now() - started) / 1000).toFixed(1)} s)`);
    return result;
  } catch (error) {
    end('failed');
    throw error;
  } finally {
    underWay--;
    clearInterval(dots);
  }
}

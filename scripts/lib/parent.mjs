import { readFileSync } from 'node:fs';

/** What the kernel tells of a process: its parent, its name, and when it began, by which a number used again is told apart. */
export function processFacts(pid) {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    const name = stat.slice(stat.indexOf('(') + 1, stat.lastIndexOf(')'));
    const rest = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
    // A process that has ended and waits to be noticed does nothing any more.
    return rest[0] === 'Z' ? null : { pid, name, parent: Number(rest[1]), began: rest[19] };
  } catch {
    return null;
  }
}

/** Whoever started us: the shell that npm puts in between, and npm itself. */
function startedBy() {
  const watched = [];
  let facts = processFacts(process.ppid);
  if (facts) watched.push(facts);
  const throughNpm = process.env.npm_lifecycle_event !== undefined;
  for (let i = 0; throughNpm && facts && !/^(npm|node)/.test(facts.name) && i < 3; i++) {
    facts = processFacts(facts.parent);
    if (facts) watched.push(facts);
  }
  return watched.filter(({ pid }) => pid > 1);
}

/**
 * Calls back once when whoever started this process is gone: npm passes on two signals alone, and none when it is killed itself.
 * Returns how to stop looking.
 */
export function whenParentIsGone(act, everyMs = 500) {
  const watched = startedBy();
  const timer = setInterval(() => {
    if (watched.every((was) => processFacts(was.pid)?.began === was.began)) return;
    clearInterval(timer);
    act();
  }, everyMs);
  timer.unref();
  return () => clearInterval(timer);
}

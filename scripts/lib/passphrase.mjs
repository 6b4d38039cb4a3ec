import { createInterface } from 'node:readline';
import { Writable } from 'node:stream';

/** Asks on the terminal without showing what is typed; a program gives it in TOMBOLO_PASSPHRASE. */
export async function askPassphrase(question, { twice = false } = {}) {
  if (process.env.TOMBOLO_PASSPHRASE) return process.env.TOMBOLO_PASSPHRASE;
  if (!process.stdin.isTTY) throw new Error('Give the passphrase in TOMBOLO_PASSPHRASE, or start this on a terminal.');
  const first = await ask(question);
  if (twice && (await ask('Once more: ')) !== first) throw new Error('The two are not the same. Nothing was done.');
  return first;
}

function ask(question) {
  process.stdout.write(question);
  const nowhere = new Writable({ write: (_chunk, _encoding, done) => done() });
  const line = createInterface({ input: process.stdin, output: nowhere, terminal: true });
  return new Promise((resolve) =>
    line.question('', (answer) => {
      line.close();
      process.stdout.write('\n');
      resolve(answer);
    }),
  );
}

/** Asks for a yes; `--yes` on the command line is one. */
export async function agreed(question, said) {
  if (said) return true;
  if (!process.stdin.isTTY) return false;
  const line = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await new Promise((resolve) => line.question(`${question} (yes/no) `, resolve));
  line.close();
  return answer.trim().toLowerCase() === 'yes';
}

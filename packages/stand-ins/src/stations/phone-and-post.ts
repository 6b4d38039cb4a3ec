import { answers } from '@tombolo/scenario';
import type { World } from '../sim/world';
import type { WriteTo } from './group-server';

/** Texts to phones: `number: text`. */
export function createPhone(world: World, write: WriteTo): (from: string, text: string) => void {
  return (from, text) => {
    const found = /^(\d{4,20}): (.+)$/.exec(text);
    if (!found) return write(from, 'Not sent: write number, colon, text');
    const [, number] = found as unknown as [string, string];
    if (!number.startsWith('00555')) return write(from, 'Not sent: no such number');
    write(from, `Text to ${number} taken`);
    const answer = answers[number];
    if (answer) world.after(answer.afterS * 1000, () => write(from, `${number}: ${answer.text}`.slice(0, 67)));
  };
}

/** Mails of one line: `address: text`. */
export function createPost(write: WriteTo): (from: string, text: string) => void {
  return (from, text) => {
    const found = /^([^\s@]+@[^\s@]+\.example): (.+)$/.exec(text);
    if (!found) return write(from, 'Not sent: write address, colon, text');
    write(from, `Mail to ${found[1]} taken`);
  };
}

import type { Proves, ServiceQuestion } from './service';

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/**
 * A pattern for an answer that none matched: the words stay, numbers may be others, and what the question named becomes a group of that
 * name. What follows a colon is the reason of a refusal, or what was answered.
 */
export function proposePattern(
  answer: string,
  proves: Proves,
  question: Pick<ServiceQuestion, 'values'> | null,
): string {
  const text = answer.trim();
  const colon = text.indexOf(': ');
  const cut = colon >= 0 && proves !== 'taken' ? colon + 2 : text.length;
  const tail = cut < text.length ? (proves === 'refused' ? '(?<reason>.*)' : '(?<text>.*)') : '';
  const named = Object.entries(question?.values ?? {})
    .filter(([id, value]) => id !== 'text' && value.length >= 2)
    .sort(([, a], [, b]) => b.length - a.length);
  let head = text.slice(0, cut);
  const groups: string[] = [];
  for (const [id, value] of named) {
    const at = head.toLowerCase().indexOf(value.toLowerCase());
    if (at < 0) continue;
    // A mark that no text from the air has: such characters are not sent.
    head = `${head.slice(0, at)}\u0000${groups.length}\u0000${head.slice(at + value.length)}`;
    groups.push(/^\d+$/.test(value) ? `(?<${id}>\\d+)` : /\s/.test(value) ? `(?<${id}>.+)` : `(?<${id}>\\S+)`);
  }
  const words = head
    .split(/(\u0000\d+\u0000)/)
    .map((part) => {
      const mark = /^\u0000(\d+)\u0000$/.exec(part);
      if (mark) return groups[Number(mark[1])] ?? '';
      return escaped(part).replace(/\d+(?:\\\.\d+)?/g, (digits) => (digits.includes('.') ? '[\\d.]+' : '\\d+'));
    })
    .join('');
  return `^${words}${tail}$`;
}

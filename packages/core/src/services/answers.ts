import { pattern, readPattern } from '../text/pattern';
import { fail, ok, type Parsed } from '../result';
import { fieldsOf, readTemplate } from './fill';
import type { Proves, Service, ServiceAnswer, ServiceQuestion } from './service';

/** Answers come by radio: of a longer one the beginning is read. */
const LONGEST_ANSWER = 400;

/** What a text of a service says. */
export interface ServiceWord {
  readonly proves: Proves;
  /** The commands that are answered so; all of them where none is named. */
  readonly of: readonly string[];
  readonly groups: Readonly<Record<string, string>>;
  /** Which of the service's answers it is. */
  readonly n: number;
}

/** What a text from a service says: the first of its patterns that finds something; null where none does. */
export function readServiceWord(service: Pick<Service, 'answers'>, text: string): ServiceWord | null {
  const line = text.slice(0, LONGEST_ANSWER);
  for (const [n, answer] of service.answers.entries()) {
    const groups = pattern(answer.pattern).exec(line);
    if (groups) return { proves: answer.proves, of: answer.of, groups, n };
  }
  return null;
}

/** The same number or name, however it is written: of a number the digits count, of a name not the case. */
const plain = (value: string): string =>
  /^[+\d\s().\/-]+$/.test(value) ? value.replace(/\D/g, '') : value.trim().toLowerCase();

/** What a group found; empty where it found nothing or is none. */
const said = ({ groups }: ServiceWord, id: string): string => (Object.hasOwn(groups, id) ? groups[id]! : '');

/** Whether an answer can be one to a question: by its command, and by all that both of them name. */
export const answersQuestion = (
  word: ServiceWord,
  { command, values }: Pick<ServiceQuestion, 'command' | 'values'>,
): boolean =>
  (word.of.length === 0 || word.of.includes(command)) &&
  Object.entries(values).every(
    // The words that were said are not those of the answer.
    ([id, value]) => id === 'text' || said(word, id) === '' || plain(said(word, id)) === plain(value),
  );

/** Whether all that an answer to a command can prove is that its service took it. */
export const endsWhenTaken = ({ answers }: Pick<Service, 'answers'>, command: string): boolean => {
  const proves = answers.filter(({ of }) => of.length === 0 || of.includes(command)).map((answer) => answer.proves);
  return proves.includes('taken') && !proves.includes('answer') && !proves.includes('told');
};

/** Whom an answer is from, on the far side: by the first field of the question that it names. */
export const farOf = (word: ServiceWord, values: Readonly<Record<string, string>>): string | null => {
  const named = Object.keys(values).find((id) => id !== 'text' && said(word, id) !== '');
  return said(word, named ?? 'to') || null;
};

/** A service that can be worked with, or the first thing that is wrong with it; `at` counts for nothing. */
export function checkService(service: Service): Parsed<Service> {
  for (const command of service.commands) {
    const template = readTemplate(command.template);
    if (!template.ok) return fail(0, `“${command.title}”: its template cannot be used: ${template.error.reason}`);
    const written = fieldsOf(template.value);
    const fields = command.fields.map(({ id }) => id);
    const unknown = written.find((id) => !fields.includes(id));
    if (unknown !== undefined)
      return fail(0, `“${command.title}”: its template has a field {${unknown}} that is none of it`);
    const unused = fields.find((id) => !written.includes(id));
    if (unused !== undefined) return fail(0, `“${command.title}”: its field “${unused}” is not in the template`);
    if (command.leftBy !== null && !service.commands.some(({ id }) => id === command.leftBy))
      return fail(0, `“${command.title}”: nothing here is called “${command.leftBy}” to leave it by`);
  }
  for (const { pattern: source, of } of service.answers) {
    const read = readPattern(source);
    if (!read.ok) return fail(0, `the pattern “${source}” cannot be used: ${read.error.reason}`);
    const strange = of.find((id) => !service.commands.some((command) => command.id === id));
    if (strange !== undefined)
      return fail(0, `the pattern “${source}” is to answer “${strange}”, which is no command here`);
  }
  return ok(service);
}

/** Patterns of which the first finds something, for each text its number; null where none does. */
export const whichAnswers = (answers: readonly ServiceAnswer[], texts: readonly string[]): (number | null)[] =>
  texts.map((text) => readServiceWord({ answers }, text)?.n ?? null);
